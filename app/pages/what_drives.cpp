#include "app/pages/what_drives.h"

#include "app/theme.h"
#include "app/widgets/curve_editor.h"
#include "app/widgets/figures.h"
#include "app/widgets/inertia_view.h"
#include "app/widgets/paint.h"
#include "app/widgets/sheet_view.h"
#include "app/words.h"
#include "core/quantity/format.h"

#include <QFrame>
#include <QHBoxLayout>
#include <QScrollArea>
#include <QVBoxLayout>
#include <cmath>

namespace fulmox::app {

namespace {

// A layout with height for width takes every preferred height for a least one; this page shares out a fixed height.
template <class Widget> class Level : public Widget {
  public:
    using Widget::Widget;
    bool hasHeightForWidth() const override { return false; }
};

} // namespace

WhatDrives::WhatDrives(Document& document, QWidget* parent) : Page(document, tr(question), parent) {
    auto* top = new QHBoxLayout;
    top->setSpacing(10);
    auto* motor = new QFrame;
    motor->setObjectName(QStringLiteral("card"));
    auto* motor_box = new QVBoxLayout(motor);
    motor_box->setContentsMargins(14, 8, 14, 8);
    motor_box->setSpacing(2);
    motor_name_ = new QLabel;
    motor_name_->setTextFormat(Qt::PlainText);
    motor_name_->setFont(type_face(16, Weight::strong));
    motor_facts_ = new Level<QLabel>;
    motor_facts_->setMinimumHeight(48);
    motor_facts_->setObjectName(QStringLiteral("second"));
    motor_facts_->setFont(type_face(12));
    motor_facts_->setWordWrap(true);
    motor_facts_->setTextFormat(Qt::PlainText);
    remove_ = new QPushButton(tr("Remove"));
    remove_->setObjectName(QStringLiteral("link"));
    remove_->setAccessibleName(tr("Remove the motor from this axis"));
    connect(remove_, &QPushButton::clicked, this, [this] { table_->take_out(); });
    auto* name_line = new QHBoxLayout;
    name_line->addWidget(motor_name_, 1);
    name_line->addWidget(remove_);
    motor_box->addLayout(name_line);
    motor_box->addWidget(motor_facts_, 1, Qt::AlignTop);
    top->addWidget(motor, 5);
    auto* drive = new QFrame;
    drive->setObjectName(QStringLiteral("card"));
    auto* drive_box = new QVBoxLayout(drive);
    drive_box->setContentsMargins(14, 8, 14, 8);
    auto* drive_form = new Form(document, {QStringLiteral("/drive/bus_voltage"), QStringLiteral("/drive/stop_time")});
    forms_.push_back(drive_form);
    drive_box->addWidget(drive_form);
    drive_box->addStretch(1);
    top->addWidget(drive, 5);
    body_->addLayout(top);

    auto* middle = new QHBoxLayout;
    middle->setSpacing(10);
    auto* picture = new QFrame;
    QVBoxLayout* picture_box = make_card(picture, tr("Speed and torque at the motor"));
    picture->setMinimumHeight(260);
    auto* heading = picture->findChild<QLabel*>();
    const auto name_picture = [heading, &document] {
        const bool along = document.has_axis() && motion_of(document.axis().mechanism).direct;
        heading->setText(along ? tr("Speed and force of the motor") : tr("Speed and torque at the motor"));
    };
    name_picture();
    connect(&document, &Document::changed, heading, name_picture);
    plot_ = new SpeedTorquePlot(document);
    picture_box->addWidget(plot_, 1);
    middle->addWidget(picture, 5);
    auto* inertia = new QFrame;
    QLabel* unit = nullptr;
    QVBoxLayout* inertia_box = make_card(inertia, tr("Inertia at the motor shaft"), &unit);
    InertiaView::name_card(document, *inertia, *unit);
    inertia_box->addWidget(new InertiaView(document, true));
    inertia_box->addStretch(1);
    middle->addWidget(inertia, 3);
    body_->addLayout(middle, 0);

    auto* bottom = new QFrame;
    bottom->setObjectName(QStringLiteral("card"));
    auto* bottom_box = new QVBoxLayout(bottom);
    bottom_box->setContentsMargins(10, 4, 10, 8);
    tabs_ = new Level<QTabWidget>;
    tabs_->setAccessibleName(tr("Motors"));
    tabs_->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Ignored);
    auto* catalogue = new QWidget;
    auto* catalogue_box = new QVBoxLayout(catalogue);
    catalogue_box->setContentsMargins(0, 4, 0, 0);
    catalogue_box->setSpacing(4);
    table_ = new MotorTable(document);
    catalogue_box->addWidget(table_, 1);
    auto* corner = new QWidget;
    auto* below = new QHBoxLayout(corner);
    below->setContentsMargins(0, 0, 0, 2);
    table_count_ = new QLabel;
    table_count_->setObjectName(QStringLiteral("second"));
    table_count_->setFont(type_face(12));
    use_ = new QPushButton(tr("Use this motor"));
    use_->setObjectName(QStringLiteral("primary"));
    connect(use_, &QPushButton::clicked, table_, &MotorTable::choose_current);
    below->addWidget(table_count_);
    below->addWidget(use_);
    tabs_->setCornerWidget(corner);
    connect(tabs_, &QTabWidget::currentChanged, this, [this, corner](int tab) {
        corner->setVisible(tab == 0);
        emit least_changed();
    });
    tabs_->addTab(catalogue, tr("Catalogue"));
    tabs_->addTab(by_hand(), tr("Datasheet by hand"));
    tabs_->addTab(new SheetView(document), tr("Datasheet check"));
    tabs_->addTab(of_drive(), tr("Drive"));
    bottom_box->addWidget(tabs_);
    body_->addWidget(bottom, 1);
    table_->setToolTip(
        tr("%1. Enter or a double click takes a motor.").arg(table_->model_of_motors().catalogue_name()));
    connect(table_, &MotorTable::judged, this, [this] {
        MotorModel& m = table_->model_of_motors();
        table_count_->setText(m.judging() ? tr("being judged, %1 %").arg(std::lround(100 * m.judged_share()))
                                          : tr("%1 of %2 carry this axis").arg(m.fitting()).arg(m.suiting()));
    });
    const auto enable = [this] { use_->setEnabled(table_->currentIndex().isValid()); };
    connect(table_->selectionModel(), &QItemSelectionModel::currentChanged, this, enable);
    enable();
    connect(&document, &Document::changed, this, [this] {
        if (isVisible()) refresh_card();
    });
}

// A tab whose contents scroll, over the help of the field that has the focus.
WhatDrives::Tab WhatDrives::scrolling_tab(int spacing) {
    auto* page = new QWidget;
    auto* outer = new QVBoxLayout(page);
    outer->setContentsMargins(0, 4, 0, 0);
    auto* scroll = new QScrollArea;
    scroll->setWidgetResizable(true);
    scroll->setFocusPolicy(Qt::NoFocus);
    auto* inner = new QWidget;
    inner->setObjectName(QStringLiteral("clear"));
    auto* line = new QHBoxLayout(inner);
    line->setContentsMargins(2, 0, 2, 0);
    line->setSpacing(spacing);
    scroll->setWidget(inner);
    outer->addWidget(scroll, 1);
    auto* help = new HelpStrip(document_);
    help->setMinimumHeight(34);
    outer->addWidget(help);
    return {page, line, help};
}

QWidget* WhatDrives::by_hand() {
    const Tab tab = scrolling_tab(6);
    auto* form = new Form(document_, {QStringLiteral("/motor")}, 118);
    forms_.push_back(form);
    tab.line->addWidget(form, 1, Qt::AlignTop);
    auto* continuous = new CurveEditor(document_, tr("Continuous curve"), QStringLiteral("/motor/continuous"));
    auto* peak = new CurveEditor(document_, tr("Peak curve"), QStringLiteral("/motor/peak"));
    // one below the other: beside one another they leave the fields no room for their conversions
    auto* curves = new QVBoxLayout;
    curves->addWidget(continuous);
    curves->addWidget(peak);
    curves->addStretch(1);
    tab.line->addLayout(curves);
    for (Form* f : forms_) connect(f, &Form::focused, tab.help, &HelpStrip::show_field);
    for (CurveEditor* c : {continuous, peak}) connect(c, &CurveEditor::focused, tab.help, &HelpStrip::show_field);
    return tab.page;
}

// Until the drive is a part of its own: its currents, its voltage, and what it lets the motor do.
QWidget* WhatDrives::of_drive() {
    const Tab tab = scrolling_tab(16);
    const QString d = QStringLiteral("/drive/");
    for (const QStringList& keys : {QStringList{d + "continuous_current", d + "peak_current", d + "currents_in",
                                        d + "modulation", d + "field_weakening"},
             QStringList{d + "modulation_reserve", d + "trip_voltage", d + "top_frequency", d + "cold", d + "hot",
                 d + "stop_distance"}}) {
        auto* form = new Form(document_, keys, 128);
        forms_.push_back(form);
        connect(form, &Form::focused, tab.help, &HelpStrip::show_field);
        tab.line->addWidget(form, 1, Qt::AlignTop);
    }
    return tab.page;
}

// a datasheet typed by hand wants more room than rows of the catalogue
QSize WhatDrives::least() const {
    return {760, tabs_->currentIndex() == 0 ? 740 : tabs_->currentIndex() == 3 ? 800 : 960};
}

QString WhatDrives::sentence() const { return axis_sentence(document_); }

void WhatDrives::refresh_card() {
    if (!document_.has_axis()) return;
    const Motor& m = document_.axis().motor;
    const UnitSystem system = document_.machine().unit_system;
    remove_->setVisible(!m.empty());
    if (m.empty()) {
        motor_name_->setText(tr("none yet"));
        motor_facts_->setText(
            tr("Choose one below: the table judges the whole catalogue on this axis. Or type a datasheet in by hand."));
        return;
    }
    motor_name_->setText(m.name.empty() ? tr("without a name") : qs(m.name));
    QStringList facts;
    if (!m.continuous.empty() && m.continuous.front().torque.given())
        facts << tr("%1 continuous").arg(qs(format_quantity(m.continuous.front().torque.si, Kind::torque, system)));
    if (!m.peak.empty() && m.peak.front().torque.given())
        facts << tr("%1 peak").arg(qs(format_quantity(m.peak.front().torque.si, Kind::torque, system)));
    if (const auto* forcer = std::get_if<LinearForcer>(&m.electric)) {
        const auto add = [&](const QString& words, const QuantityBase& q, Kind kind) {
            if (q.given()) facts << words.arg(qs(format_quantity(q.si, kind, system)));
        };
        add(tr("%1 continuous"), forcer->continuous_force, Kind::force);
        add(tr("%1 peak"), forcer->peak_force, Kind::force);
        add(tr("up to %1"), forcer->top_speed, Kind::speed);
        add(tr("forcer %1"), forcer->forcer_mass, Kind::mass);
    }
    if (m.max_speed.given()) facts << qs(format_quantity(m.max_speed.si, Kind::angular_speed, system));
    if (!m.linear())
        facts << (m.brake_torque.given()
                      ? tr("brake %1").arg(qs(format_quantity(m.brake_torque.si, Kind::torque, system)))
                      : tr("no brake"));
    if (m.shaft_diameter.given())
        facts << tr("shaft %1").arg(qs(format_quantity(m.shaft_diameter.si, Kind::length, system)));
    if (m.price.given())
        facts << qs(format_number(m.price.si)) + QLatin1Char(' ') +
                     (document_.machine().currency.empty() ? tr("(no currency given)")
                                                           : qs(document_.machine().currency));
    const Assessment& a = document_.assessment();
    if (const Figure* rms = a.figure("motor.rms_current"); rms && !rms->waits) {
        const Figure* peak = a.figure("motor.peak_current");
        facts << tr("this cycle: %1 A RMS, %2 A RMS at the peak")
                     .arg(qs(format_number(rms->si, 3)), qs(format_number(peak->si, 3)));
    }
    motor_facts_->setText(facts.join(QStringLiteral(" · ")));
}

void WhatDrives::activate() {
    Page::activate();
    refresh_card();
    plot_->refresh();
    table_->judge_now();
}

bool WhatDrives::go_to(const QString& path) {
    const bool drive = path.startsWith(document_.axis_path() + QStringLiteral("/drive/"));
    if (drive && !path.endsWith(QStringLiteral("/bus_voltage")) && !path.endsWith(QStringLiteral("/stop_time")))
        tabs_->setCurrentIndex(3);
    if (drive || !path.startsWith(document_.axis_path() + QStringLiteral("/motor"))) return Page::go_to(path);
    tabs_->setCurrentIndex(1);
    if (Page::go_to(path)) return true;
    if (auto* w = findChild<QWidget*>(path)) w->setFocus();
    return true;
}

} // namespace fulmox::app
