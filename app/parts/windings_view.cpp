#include "app/parts/windings_view.h"

#include "app/bricks/plain_table.h"
#include "app/shipped_motors.h"
#include "app/theme.h"
#include "app/words.h"
#include "core/model/validate.h"
#include "core/motor/windings.h"
#include "core/report/motor_report.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QTableWidget>
#include <QVBoxLayout>
#include <algorithm>

namespace fulmox::app {

namespace {

// The row of the winding that the motor has.
int own_row() {
    const auto& turns = listed_turns();
    return static_cast<int>(std::find(turns.begin(), turns.end(), 1.0) - turns.begin());
}

} // namespace

WindingsView::WindingsView(Document& document, QWidget* parent) : LiveWidget(document, parent) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 4, 0, 0);
    column->setSpacing(2);
    auto* over = new QHBoxLayout;
    words_ = new QLabel;
    words_->setFont(type_face(12));
    words_->setWordWrap(true);
    words_->setTextFormat(Qt::PlainText);
    over->addWidget(words_, 1);
    take_ = new QPushButton(tr("Use this winding"));
    take_->setAccessibleName(tr("Use this winding or connection"));
    take_->setObjectName(QStringLiteral("link"));
    take_->setProperty("action", QStringLiteral("take-winding"));
    take_->setToolTip(tr("Rewinds the axis' motor so (Enter or a double click); undo takes it back. Whether its maker "
                         "winds it so is to be asked"));
    connect(take_, &QPushButton::clicked, this, &WindingsView::take);
    over->addWidget(take_, 0, Qt::AlignTop);
    column->addLayout(over);
    table_ = plain_table(QStringLiteral("windings"), tr("Windings of this frame"));
    take_on_enter(*table_, [this] { take(); });
    connect(table_, &QTableWidget::itemSelectionChanged, this, [this] {
        const int row = table_->currentRow();
        if (connecting_) return take_->setEnabled(row >= 0);
        take_->setEnabled(row >= 0 && listed_turns()[static_cast<std::size_t>(row)] != 1);
    });
    column->addWidget(table_, 1);
}

void WindingsView::refresh() {
    if (!document_.has_axis()) return;
    const Assessment& a = document_.assessment();
    const Axis& axis = document_.axis();
    connecting_ = axis.motor.stepper();
    take_->setText(connecting_ ? tr("Connect it so") : tr("Use this winding"));
    if (connecting_) return refresh_connections();
    const Policy* policy = find_policy(document_.machine(), axis.policy);
    const WindingChoice w =
        winding_choice(axis.motor, a.motor ? &*a.motor : nullptr, policy ? policy->voltage_share.value_or(1) : 1);
    const int row = table_->currentRow();
    fill(*table_, windings_table(w, axis.motor.linear()), 7);
    for (int r = 0; r < table_->rowCount(); ++r) {
        const QString verdict = table_->item(r, 7)->text();
        if (verdict == QStringLiteral("over")) table_->item(r, 7)->setForeground(theme().over);
        if (verdict == QStringLiteral("fits")) table_->item(r, 7)->setForeground(theme().fits);
        if (listed_turns()[static_cast<std::size_t>(r)] != 1) continue;
        for (int c = 0; c < table_->columnCount(); ++c) {
            table_->item(r, c)->setBackground(theme().accent_ground);
            table_->item(r, c)->setFont(type_face(13, Weight::strong));
        }
    }
    const int same =
        static_cast<int>(std::find(listed_turns().begin(), listed_turns().end(), 1.0) - listed_turns().begin());
    if (row >= 0 && row < table_->rowCount())
        table_->selectRow(row);
    else if (same < table_->rowCount())
        table_->scrollToItem(table_->item(same, 0), QAbstractItemView::PositionAtCenter);
    take_->setVisible(true);
    take_->setEnabled(table_->currentRow() >= 0 && listed_turns()[static_cast<std::size_t>(table_->currentRow())] != 1);
    words_->setText(axis.motor.empty() ? tr("No motor selected.")
                    : w.rows.empty()   ? tr("The family of windings waits for %1.").arg(qs(w.missing))
                                       : qs(w.words));
    table_->setVisible(!w.rows.empty());
}

void WindingsView::refresh_connections() {
    const Motor& motor = document_.axis().motor;
    const int row = table_->currentRow();
    const Table t = connections_table(motor);
    fill(*table_, t, 6);
    for (int r = 0; r < table_->rowCount(); ++r) {
        if (table_->item(r, 6)->text().isEmpty()) continue;
        for (int c = 0; c < table_->columnCount(); ++c) {
            table_->item(r, c)->setBackground(theme().accent_ground);
            table_->item(r, c)->setFont(type_face(13, Weight::strong));
        }
    }
    const bool choice = table_->rowCount() > 1;
    if (row >= 0 && row < table_->rowCount()) table_->selectRow(row);
    take_->setVisible(choice);
    take_->setEnabled(table_->currentRow() >= 0);
    words_->setText(
        choice ? tr("One set of ratings under each connection. In series it needs little current and loses its "
                    "torque early at speed, in parallel the other way round.")
               : tr("Its leads leave no choice of connection."));
    table_->setVisible(true);
}

void WindingsView::take() {
    const int row = table_->currentRow();
    if (row < 0 || !document_.has_axis()) return;
    if (connecting_) {
        if (table_->rowCount() < 2) return;
        document_.edit(tr("connection of the motor"), [&](Machine& m) {
            Motor& here = m.axes[static_cast<std::size_t>(document_.axis_index())].motor;
            if (auto* two = std::get_if<TwoPhaseStepper>(&here.electric))
                two->connected = static_cast<StepperConnection>(row);
        });
        return;
    }
    const double turns = listed_turns()[static_cast<std::size_t>(row)];
    if (turns == 1) return;
    document_.edit(tr("another winding"), [&](Machine& m) {
        Motor& here = m.axes[static_cast<std::size_t>(document_.axis_index())].motor;
        const std::string from = here.name;
        keep_motor(m, here);
        here = rewound(here, turns);
        here.origin = "rewound from " + (from.empty() ? std::string("a motor without a name") : from) +
                      (here.origin.empty() ? "" : ", " + here.origin);
    });
    // the winding taken is the one to start from now
    table_->selectRow(own_row());
}

} // namespace fulmox::app
