#include "app/pages/page.h"

#include "app/words.h"

#include "app/theme.h"

#include <QCoreApplication>
#include <QGuiApplication>
#include <QHBoxLayout>
#include <QLabel>
#include <QScrollArea>
#include <QScrollBar>
#include <QTimer>
#include <QVBoxLayout>

namespace fulmox::app {

Page::Page(Document& document, const QString& question, QWidget* parent) : LiveWidget(document, parent) {
    auto* box = new QVBoxLayout(this);
    box->setContentsMargins(20, 14, 16, 12);
    box->setSpacing(2);
    auto* title = new QLabel(question);
    title->setFont(type_face(20, Weight::strong));
    box->addWidget(title);
    sentence_ = new QLabel;
    sentence_->setObjectName(QStringLiteral("second"));
    sentence_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    box->addWidget(sentence_);
    box->addSpacing(8);
    body_ = new QVBoxLayout;
    body_->setSpacing(10);
    box->addLayout(body_, 1);
}

void Page::refresh() { refresh_sentence(); }

void Page::refresh_sentence() {
    const QString s = document_.has_axis() ? sentence() : tr("No axis yet: add one in the outline.");
    if (sentence_->text() != s) sentence_->setText(s);
    sentence_->setToolTip(plain_tip(s));
}

bool Page::go_to(const QString& path) {
    for (Form* f : forms_)
        if (f->go_to(path)) return true;
    return false;
}

void focus_first(QWidget& within) {
    for (QWidget* w = within.nextInFocusChain(); w && w != &within; w = w->nextInFocusChain())
        if (within.isAncestorOf(w) && w->isVisible() && w->isEnabled() && (w->focusPolicy() & Qt::TabFocus))
            return w->setFocus(Qt::ShortcutFocusReason);
}

void Page::begin() {
    if (document_.has_axis())
        for (const Problem& p : document_.assessment().problems)
            if (p.severity == Severity::error && go_to(qs(p.path))) return;
    focus_first(*this);
}

void Page::lay_out(const std::vector<QWidget*>& inputs, QWidget* meaning, int input_width) {
    auto* line = new QHBoxLayout;
    line->setSpacing(12);
    auto* left = new QVBoxLayout;
    left->setSpacing(6);
    auto* scroll = new QScrollArea;
    scroll->setWidgetResizable(true);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setFixedWidth(input_width);
    scroll->setFocusPolicy(Qt::NoFocus);
    auto* inner = new QWidget;
    auto* column = new QVBoxLayout(inner);
    column->setContentsMargins(2, 0, 10, 0);
    column->setSpacing(6);
    for (QWidget* w : inputs) column->addWidget(w);
    column->addStretch(1);
    inner->setObjectName(QStringLiteral("clear"));
    scroll->setWidget(inner);
    left->addWidget(scroll, 1);
    help_ = new HelpStrip(document_);
    help_->setFixedWidth(input_width);
    left->addWidget(help_);
    for (Form* f : forms_) {
        connect(f, &Form::focused, help_, &HelpStrip::show_field);
        connect(f, &Form::focused, this, &Page::show_input);
    }
    inputs_ = scroll;
    connect(&document_, &Document::opened, scroll, [scroll] { scroll->verticalScrollBar()->setValue(0); });
    line->addLayout(left);
    line->addWidget(meaning, 1);
    body_->addLayout(line, 1);
}

void Page::show_input(const QString& path) {
    if (QGuiApplication::mouseButtons() != Qt::NoButton) return; // what is under the pointer stays there
    // a field that has just been made has its place after the next layout
    QTimer::singleShot(0, this, [this, path] {
        QCoreApplication::sendPostedEvents(nullptr, QEvent::LayoutRequest);
        for (QWidget* w : inputs_->findChildren<QWidget*>(path))
            if (w->isVisibleTo(inputs_)) inputs_->ensureWidgetVisible(w, 0, 40);
    });
}

} // namespace fulmox::app
