#include "app/results/sheet_view.h"

#include "app/bricks/plain_table.h"
#include "app/theme.h"
#include "app/words.h"
#include "core/report/motor_report.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QTableWidget>
#include <QVBoxLayout>
#include <algorithm>

namespace fulmox::app {

SheetView::SheetView(Document& document, QWidget* parent) : LiveWidget(document, parent) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 4, 0, 0);
    column->setSpacing(2);
    const auto head = [](const QString& text) {
        auto* h = new QLabel(text);
        h->setFont(type_face(12, Weight::strong));
        return h;
    };
    auto* over = new QHBoxLayout;
    over->addWidget(head(tr("Datasheet consistency")));
    over->addStretch(1);
    take_ = new QPushButton(tr("Take this reading"));
    take_->setObjectName(QStringLiteral("link"));
    take_->setProperty("action", QStringLiteral("take-reading"));
    take_->setToolTip(tr("Reads the constant as the selected row says (Enter or a double click); undo takes it back"));
    connect(take_, &QPushButton::clicked, this, &SheetView::take);
    over->addWidget(take_);
    why_not_ = new QLabel(tr("No choice fits this reading: correct the value on the Datasheet tab."));
    why_not_->setObjectName(QStringLiteral("why-not-taken"));
    why_not_->setFont(type_face(12));
    over->addWidget(why_not_);
    column->addLayout(over);
    pairs_ = plain_table(QStringLiteral("sheet-pairs"), tr("Datasheet consistency, and readings that agree"));
    take_on_enter(*pairs_, [this] { take(); });
    connect(pairs_, &QTableWidget::itemSelectionChanged, this, &SheetView::offer);
    column->addWidget(pairs_, 6);
    nothing_ = new QLabel;
    nothing_->setObjectName(QStringLiteral("second"));
    nothing_->setFont(type_face(12));
    nothing_->setWordWrap(true);
    column->addWidget(nothing_);
    column->addSpacing(4);
    column->addWidget(head(tr("The same constants under every convention, at 20 °C")));
    constants_ = plain_table(QStringLiteral("sheet-constants"), tr("Constants under every convention"));
    column->addWidget(constants_, 5);
}

int SheetView::contradictions() const {
    return static_cast<int>(std::count_if(
        found_.begin(), found_.end(), [](const SheetPair& p) { return p.verdict == Verdict::contradicts; }));
}

void SheetView::refresh() {
    const Motor now = document_.has_axis() ? document_.axis().motor : Motor();
    if (now == shown_ && units_ == document_.machine().unit_system && pairs_->columnCount() > 0) return;
    shown_ = now;
    units_ = document_.machine().unit_system;
    const int row = pairs_->currentRow();
    fill(*constants_, constants_table(shown_), 1);
    found_ = check_sheet(shown_);
    fill(*pairs_, pairs_table(found_, units_), 0);
    // few pairs leave their room to the constants
    pairs_->setMaximumHeight(34 + 22 * std::max(2, pairs_->rowCount()));
    rows_.clear();
    pairs_->clearSpans();
    int r = 0;
    for (const SheetPair& p : found_) {
        if (p.verdict != Verdict::agrees)
            pairs_->item(r, 4)->setForeground(
                theme().state(p.verdict == Verdict::contradicts ? LimitState::over : LimitState::tight));
        ++r;
        rows_.push_back(nullptr);
        if (!p.note.empty()) {
            ++r;
            rows_.push_back(nullptr);
        }
        for (const SheetReading& each : p.readings) {
            rows_.push_back(&each);
            pairs_->setSpan(r, 0, 1, 3); // its words have the room of the two values
            ++r;
        }
    }
    if (row >= 0 && row < pairs_->rowCount()) pairs_->selectRow(row);
    offer();
    QString words;
    if (found_.empty())
        words = document_.has_axis() && document_.axis().motor.stepper()
                    ? tr("Nothing yet: give what follows from one another, as rated voltage, current and resistance.")
                    : tr("Nothing yet: give two constants of which one follows from the other, as torque and voltage "
                         "constant.");
    else if (contradictions() > 0 &&
             std::none_of(found_.begin(), found_.end(), [](const SheetPair& p) { return !p.readings.empty(); }))
        words =
            tr("Beyond the tolerances the sheet says one thing in two ways; no other convention would reconcile them.");
    else if (contradictions() > 0)
        words = tr("Beyond the tolerances something is read otherwise than the sheet means it. Rows that begin with "
                   "\"if\" say what "
                   "would agree; nothing is changed until one is taken.");
    nothing_->setText(words);
    nothing_->setVisible(!words.isEmpty());
}

const SheetReading* SheetView::selected() const {
    const int row = pairs_->currentRow();
    return row < 0 || row >= static_cast<int>(rows_.size()) ? nullptr : rows_[static_cast<std::size_t>(row)];
}

void SheetView::offer() {
    const SheetReading* r = selected();
    take_->setVisible(r && r->option >= 0);
    why_not_->setVisible(r && r->option < 0);
}

void SheetView::take() {
    if (const SheetReading* r = selected(); r && r->option >= 0)
        document_.set_choice(document_.axis_path() + QStringLiteral("/motor/electric/") + qs(r->field), r->option);
}

} // namespace fulmox::app
