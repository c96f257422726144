#include "app/banner.h"

#include "app/words.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>

namespace fulmox::app {

Banner::Banner(QWidget* parent) : QFrame(parent) {
    setObjectName(QStringLiteral("banner"));
    auto* line = new QHBoxLayout(this);
    line->setContentsMargins(14, 5, 10, 5);
    text_ = new QLabel;
    text_->setWordWrap(true);
    text_->setTextFormat(Qt::PlainText);
    text_->setObjectName(QStringLiteral("banner-text"));
    line->addWidget(text_, 1);
    buttons_ = new QHBoxLayout;
    line->addLayout(buttons_);
    hide();
}

void Banner::show_message(const QString& text, const Choice& first, const Choice& second) {
    text_->setText(shown(text));
    while (QLayoutItem* item = buttons_->takeAt(0)) {
        if (QWidget* w = item->widget()) {
            w->hide();
            w->deleteLater();
        }
        delete item;
    }
    const auto button = [&](const QString& label, const char* name, const std::function<void()>& run) {
        auto* b = new QPushButton(label);
        b->setAccessibleName(label);
        b->setProperty("role", QLatin1String(name));
        connect(b, &QPushButton::clicked, this, [this, run] {
            hide();
            if (run) run();
        });
        buttons_->addWidget(b);
    };
    if (!first.text.isEmpty()) button(first.text, "first", first.act);
    if (!second.text.isEmpty()) button(second.text, "second", second.act);
    if (first.text.isEmpty()) button(tr("Close"), "close", {});
    show();
}

QString Banner::message() const { return isHidden() ? QString() : text_->text(); }

} // namespace fulmox::app
