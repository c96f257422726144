#include "app/parts/kind_view.h"

#include "app/bricks/plain_table.h"
#include "app/forms/form.h"
#include "app/theme.h"
#include "app/words.h"
#include "core/report/kind_report.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QTableWidget>
#include <QVBoxLayout>

namespace fulmox::app {

KindView::KindView(Document& document, QWidget* parent) : LiveWidget(document, parent) {
    auto* line = new QHBoxLayout(this);
    line->setContentsMargins(0, 4, 0, 0);
    line->setSpacing(10);
    auto* advice = new QVBoxLayout;
    words_ = new QLabel;
    words_->setFont(type_face(12));
    words_->setWordWrap(true);
    words_->setTextFormat(Qt::PlainText);
    words_->setObjectName(QStringLiteral("kind-words"));
    advice->addWidget(words_);
    kinds_ = plain_table(QStringLiteral("kinds"), tr("Kinds of motor by their score, with reasons"), false);
    advice->addWidget(kinds_, 1);
    line->addLayout(advice, 6);
    auto* asked = new QVBoxLayout;
    form_ = new Form(document, {QStringLiteral("/questions")}, 96);
    connect(form_, &Form::focused, this, &KindView::focused);
    asked->addWidget(form_);
    questions_ =
        plain_table(QStringLiteral("kind-questions"), tr("What the choice asks, and what is known to it"), false);
    asked->addWidget(questions_, 1);
    line->addLayout(asked, 5);
}

void KindView::refresh() {
    if (!document_.has_axis()) return;
    form_->refresh();
    const KindChoice c =
        which_kind(document_.machine(), document_.axis(), document_.assessment(), document_.axis_path().toStdString());
    QString words = c.kinds.empty() ? tr("No choice here: %1.").arg(qs(c.missing))
                                    : tr("%1, by %2 points").arg(qs(c.kinds.front().label)).arg(c.kinds.front().score);
    if (!c.kinds.empty() && !c.missing.empty())
        words += tr("; %1 are not known yet and count for nothing").arg(qs(c.missing));
    if (!c.kinds.empty()) words += tr(". Common practice, no source; the limits judge the motor itself.");
    words_->setText(words);
    const Table kinds = kinds_table(c);
    fill(*kinds_, kinds, 0);
    fill(*questions_, questions_table(c), 0);
    for (int row = 0; row < kinds_->rowCount(); ++row) {
        const bool reason = kinds_->item(row, 0)->text().startsWith(QStringLiteral("·"));
        const bool change = kinds_->item(row, 0)->text().startsWith(QStringLiteral("If "));
        for (int col = 0; col < kinds_->columnCount(); ++col) {
            kinds_->item(row, col)->setFont(type_face(12, reason || change ? Weight::regular : Weight::strong));
            kinds_->item(row, col)->setForeground(change ? theme().second : theme().ink);
        }
        kinds_->item(row, 0)->setToolTip(plain_tip(kinds_->item(row, 0)->text()));
    }
    kinds_->setVisible(!c.kinds.empty());
}

} // namespace fulmox::app
