#include "app/widgets/compare_view.h"

#include "app/theme.h"
#include "app/widgets/motor_table.h"
#include "app/widgets/plain_table.h"
#include "core/report/catalogue_report.h"

#include <QHeaderView>
#include <QLabel>
#include <QTableWidget>
#include <QVBoxLayout>

namespace fulmox::app {

CompareView::CompareView(Document& document, MotorTable& motors, QWidget* parent)
    : QWidget(parent), document_(document), motors_(motors) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 4, 0, 0);
    column->setSpacing(2);
    table_ = plain_table(QStringLiteral("compare"), tr("Motors side by side"), false); // words stand among them
    column->addWidget(table_, 1);
    hint_ = new QLabel(
        tr("Choose up to four motors of the catalogue with Space; their curves are drawn beside that of the axis."));
    hint_->setObjectName(QStringLiteral("second"));
    hint_->setFont(type_face(12));
    hint_->setWordWrap(true);
    column->addWidget(hint_);
    const auto follow = [this] {
        if (isVisible()) refresh();
    };
    connect(&motors_, &MotorTable::compared_changed, this, follow);
    connect(&document_, &Document::changed, this, follow);
}

void CompareView::showEvent(QShowEvent* event) {
    refresh();
    QWidget::showEvent(event);
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
}

} // namespace fulmox::app
