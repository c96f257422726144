#include "app/pages/law_table.h"

#include "app/bricks/padded.h"
#include "app/theme.h"
#include "core/match/sensitivity.h"
#include "core/quantity/format.h"

#include <QClipboard>
#include <QGuiApplication>
#include <QHeaderView>
#include <QKeyEvent>
#include <algorithm>
#include <array>
#include <cmath>

namespace fulmox::app {

LawTable::LawTable(Document& document, QWidget* parent) : QTableWidget(parent), document_(document) {
    setObjectName(QStringLiteral("laws"));
    setAccessibleName(tr("The selected move under every law"));
    setColumnCount(6);
    auto* cells = new PaddedDelegate(2, 4, this);
    cells->numbers = true;
    setItemDelegate(cells);
    setEditTriggers(QAbstractItemView::NoEditTriggers);
    setSelectionBehavior(QAbstractItemView::SelectRows);
    setSelectionMode(QAbstractItemView::SingleSelection);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setShowGrid(false);
    verticalHeader()->hide();
    verticalHeader()->setDefaultSectionSize(22);
    verticalHeader()->setMinimumSectionSize(20);
    horizontalHeader()->setSectionResizeMode(QHeaderView::Fixed);
    horizontalHeader()->setHighlightSections(false);
    horizontalHeader()->setFont(type_face(11));
    horizontalHeader()->setMinimumSectionSize(30);
    setStyleSheet(QStringLiteral("QHeaderView::section { padding: 1px 0; font-size: 11px; }"));
    setTabKeyNavigation(false);
    connect(this, &QTableWidget::cellDoubleClicked, this, &LawTable::take);
    later_.setSingleShot(true);
    later_.setInterval(120);
    connect(&later_, &QTimer::timeout, this, &LawTable::calculate);
}

void LawTable::take() {
    if (currentRow() < 0 || segment_ < 0) return;
    document_.set_choice(
        document_.axis_path() + QStringLiteral("/cycle/segments/%1/what/law").arg(segment_), currentRow());
}

void LawTable::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter) return take();
    if (!event->matches(QKeySequence::Copy)) return QTableWidget::keyPressEvent(event);
    QString text;
    for (int row = -1; row < rowCount(); ++row) {
        QStringList cells;
        for (int c = 0; c < columnCount(); ++c) {
            const QTableWidgetItem* cell = row < 0 ? horizontalHeaderItem(c) : item(row, c);
            cells << (cell ? cell->text().replace(QLatin1Char('\n'), QStringLiteral(", ")) : QString());
        }
        text += cells.join(QLatin1Char('\t')) + QLatin1Char('\n');
    }
    QGuiApplication::clipboard()->setText(text);
}

void LawTable::show_segment(int segment) {
    if (segment != segment_ || !later_.isActive()) later_.start(segment == segment_ ? 120 : 0);
    segment_ = segment;
}

void LawTable::calculate() {
    if (!document_.has_axis() || segment_ < 0) {
        work_.stop();
        emit shown(false);
        return;
    }
    work_.run(
        this,
        [machine = document_.snapshot(), axis = static_cast<std::size_t>(document_.axis_index()),
            segment = static_cast<std::size_t>(segment_)](
            const StopToken& go_on) { return compare_laws(*machine, axis, segment, go_on); },
        [this](const std::vector<LawRow>& rows) { fill(rows); });
    if (work_.running()) emit shown(false); // what stands there is of the cycle before
}

void LawTable::fill(const std::vector<LawRow>& rows) {
    emit shown(!rows.empty());
    if (rows.empty() || !document_.has_axis()) return;
    const Motion motion = motion_of(document_.axis().mechanism);
    const UnitSystem system = document_.machine().unit_system;
    const Unit* units[] = {nullptr, &display_unit(motion_kind(Order::speed, motion.rotary), system),
        &display_unit(motion_kind(Order::acceleration, motion.rotary), system),
        &display_unit(motion_kind(Order::jerk, motion.rotary), system),
        &display_unit(motion.direct ? Kind::force : Kind::torque, system),
        &display_unit(motion.direct ? Kind::force : Kind::torque, system)};
    const QString names[] = {tr("law"), tr("speed"), tr("accel."), tr("jerk"), tr("peak"), tr("RMS")};
    QStringList heads;
    for (int c = 0; c < 6; ++c)
        heads << (units[c]
                      ? QStringLiteral("%1\n%2").arg(names[c],
                            QString::fromUtf8(units[c]->symbol.data(), static_cast<qsizetype>(units[c]->symbol.size())))
                      : names[c]);
    setHorizontalHeaderLabels(heads);
    for (int c = 0; c < 6; ++c)
        horizontalHeaderItem(c)->setTextAlignment((c == 0 ? Qt::AlignLeft : Qt::AlignRight) | Qt::AlignVCenter);
    setRowCount(static_cast<int>(rows.size()));
    double least = INFINITY;
    for (const LawRow& r : rows) least = std::min(least, r.rms_torque);
    for (std::size_t i = 0; i < rows.size(); ++i) {
        const LawRow& r = rows[i];
        const double values[] = {0, r.peak_speed, r.peak_acceleration, r.jerk, r.peak_torque, r.rms_torque};
        QString cell_tip;
        for (int c = 0; c < 6; ++c) {
            QString text = QString::fromUtf8(laws[i].label);
            if (c == 0)
                text.replace(QLatin1String("Polynomial"), tr("Poly."))
                    .replace(QLatin1String("Modified"), tr("Mod."))
                    .replace(QLatin1String("Simple harmonic"), tr("Harmonic"))
                    .replace(QLatin1String("Parabolic velocity"), tr("Parabolic"))
                    .replace(QLatin1String("trapezoid"), tr("trapez."));
            if (c == 0) cell_tip = QString::fromUtf8(laws[i].label);
            if (c == 0 && r.chosen) text = QStringLiteral("● ") + text;
            if (c > 0)
                text = std::isfinite(values[c])
                           ? QString::fromStdString(format_number(from_si(values[c], *units[c]), 3))
                           : QStringLiteral("∞");
            QTableWidgetItem* cell = item(static_cast<int>(i), c);
            if (!cell) setItem(static_cast<int>(i), c, cell = new QTableWidgetItem);
            if (cell->text() != text) cell->setText(text);
            cell->setToolTip(cell_tip);
            cell->setTextAlignment((c == 0 ? Qt::AlignLeft : Qt::AlignRight) | Qt::AlignVCenter);
            cell->setFont(type_face(12, r.chosen ? Weight::strong : Weight::regular));
            cell->setForeground(c == 5 && r.rms_torque <= least * (1 + 1e-9) ? theme().accent : theme().ink);
        }
    }
    share_width();
}

void LawTable::resizeEvent(QResizeEvent* event) {
    QTableWidget::resizeEvent(event);
    share_width();
}

// Every column gets what it needs and the rest is shared; where there is too little the names give way, not the
// numbers.
void LawTable::share_width() {
    int left = viewport()->width();
    std::array<int, 6> need{};
    for (int c = 0; c < 6; ++c) {
        need[static_cast<std::size_t>(c)] = std::max(sizeHintForColumn(c), horizontalHeader()->sectionSizeHint(c));
        left -= need[static_cast<std::size_t>(c)];
    }
    for (int c = 0; c < 6; ++c) {
        const int share = left >= 0 ? (c > 0 ? left / 5 : left % 5) : (c == 0 ? left : 0);
        setColumnWidth(c, std::max(20, need[static_cast<std::size_t>(c)] + share));
    }
}

} // namespace fulmox::app
