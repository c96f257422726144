#include "app/parts/compare_view.h"

#include "app/bricks/plain_table.h"
#include "app/parts/motor_table.h"
#include "app/plots/steady_plot.h"
#include "app/theme.h"
#include "core/match/stepping.h"
#include "core/report/catalogue_report.h"

#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QTableWidget>
#include <QVBoxLayout>
#include <algorithm>

namespace fulmox::app {

CompareView::CompareView(Document& document, MotorTable& motors, QWidget* parent)
    : LiveWidget(document, parent), motors_(motors) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 4, 0, 0);
    column->setSpacing(2);
    auto* over = new QHBoxLayout;
    over->setSpacing(12);
    const auto link = [&](const QString& text, const QString& tip) {
        auto* b = new QPushButton(text);
        b->setObjectName(QStringLiteral("link"));
        b->setToolTip(tip);
        over->addWidget(b);
        return b;
    };
    numbers_ = link(tr("In numbers"), tr("What each is and how it does on this axis"));
    speeds_ = link(tr("Over speed and load"),
        tr("Supply current, torque left and winding temperature of each while it turns steadily"));
    for (QPushButton* b : {numbers_, speeds_}) b->setCheckable(true);
    connect(numbers_, &QPushButton::clicked, this, [this] { over_speed(false); });
    connect(speeds_, &QPushButton::clicked, this, [this] { over_speed(true); });
    over->addStretch(1);
    other_ = link(tr("Add the best of the other kind"), tr("An open-loop stepper beside a servo, a servo beside an "
                                                           "open-loop stepper: the first that is suitable"));
    connect(other_, &QPushButton::clicked, this, &CompareView::beside_other_kind);
    column->addLayout(over);
    plot_ = new SteadyPlot(document);
    legend_ = new QLabel;
    legend_->setTextFormat(Qt::RichText);
    legend_->setFont(type_face(12));
    legend_->setWordWrap(true);
    table_ = plain_table(QStringLiteral("compare"), tr("Motors side by side"), false); // words stand among them
    column->addWidget(table_, 1);
    column->addWidget(legend_);
    column->addWidget(plot_, 1);
    over_speed(false);
    hint_ = new QLabel(
        tr("Choose up to four motors of the catalogue with Space; their curves are drawn beside that of the axis."));
    hint_->setObjectName(QStringLiteral("second"));
    hint_->setFont(type_face(12));
    hint_->setWordWrap(true);
    column->addWidget(hint_);
    connect(&motors_, &MotorTable::compared_changed, this, [this] {
        if (isVisible())
            refresh();
        else
            set_stale();
    });
}

void CompareView::refresh() {
    if (!document_.has_axis()) return;
    std::vector<ComparedMotor> all;
    if (!document_.axis().motor.empty()) all.push_back({&document_.axis().motor, &document_.assessment()});
    for (const Compared& c : motors_.compared())
        if (c.motor != document_.axis().motor) all.push_back({&c.motor, c.is.get()});
    fill(*table_, compared_table(document_.machine(), all), 0);
    table_->horizontalHeader()->setSectionResizeMode(0, QHeaderView::ResizeToContents);
    for (int c = 1; c < table_->columnCount(); ++c)
        table_->horizontalHeader()->setSectionResizeMode(c, QHeaderView::Stretch);
    hint_->setVisible(motors_.compared().empty());
    plot_->compare(motors_.compared());
    legend_->setText(plot_->legend());
    other_->setVisible(!document_.axis().motor.empty() && !document_.axis().motor.linear());
}

void CompareView::over_speed(bool on) {
    over_speed_ = on;
    emit room_changed();
    numbers_->setChecked(!on);
    speeds_->setChecked(on);
    table_->setVisible(!on);
    plot_->setVisible(on);
    legend_->setVisible(on);
    if (isVisible()) refresh();
}

void CompareView::beside_other_kind() {
    if (!document_.has_axis()) return;
    const MotorModel& all = motors_.model_of_motors();
    if (all.judging()) return emit motors_.refused(tr("the catalogue is being judged; try again in a moment"));
    const bool stepper = open_loop(document_.axis());
    int best = -1;
    for (int row = 0; row < all.rowCount(); ++row) {
        const Motor& m = all.motor(row);
        const bool already = std::any_of(motors_.compared().begin(), motors_.compared().end(),
            [&](const Compared& c) { return c.motor.name == m.name; });
        Axis with = document_.axis();
        with.motor.electric = m.electric;
        if (already || !all.suits(row) || open_loop(with) == stepper) continue;
        if (all.state(row) != LimitState::fits && all.state(row) != LimitState::tight) continue;
        const auto rank = [&](int r) { return all.data(all.index(r, MotorModel::rank), Qt::DisplayRole).toInt(); };
        if (best < 0 || rank(row) < rank(best)) best = row;
    }
    if (best < 0)
        return emit motors_.refused(stepper
                                        ? tr("no servo of the catalogue carries this axis on this bus")
                                        : tr("no open-loop stepper of the catalogue carries this axis on this bus"));
    motors_.compare_with(all.motor(best));
}

} // namespace fulmox::app
