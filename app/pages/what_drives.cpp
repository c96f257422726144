#include "app/pages/what_drives.h"

#include "app/library.h"
#include "app/regular_file.h"
#include "app/shipped_motors.h"
#include "app/theme.h"
#include "app/widgets/compare_view.h"
#include "app/widgets/curve_editor.h"
#include "app/widgets/figures.h"
#include "app/widgets/inertia_view.h"
#include "app/widgets/kind_view.h"
#include "app/widgets/paint.h"
#include "app/widgets/picture_view.h"
#include "app/widgets/sheet_view.h"
#include "app/widgets/windings_view.h"
#include "app/words.h"
#include "core/motor/curves.h"
#include "core/quantity/format.h"

#include <QFile>
#include <QFileDialog>
#include <QFrame>
#include <QHBoxLayout>
#include <QVBoxLayout>
#include <algorithm>
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
    cards_ = new PartCards(document);
    body_->addWidget(cards_);
    auto* motor = new QWidget;
    auto* top = new QHBoxLayout(motor);
    top->setContentsMargins(2, 0, 2, 0);
    top->setSpacing(10);
    motor_facts_ = new Level<QLabel>;
    motor_facts_->setObjectName(QStringLiteral("second"));
    motor_facts_->setFont(type_face(12));
    motor_facts_->setWordWrap(true);
    motor_facts_->setMinimumHeight(32);
    motor_facts_->setTextFormat(Qt::PlainText);
    remove_ = new QPushButton(tr("Remove"));
    remove_->setObjectName(QStringLiteral("link"));
    remove_->setAccessibleName(tr("Remove the motor from this axis"));
    connect(remove_, &QPushButton::clicked, this, [this] { table_->take_out(); });
    top->addWidget(motor_facts_, 1);
    top->addWidget(remove_, 0, Qt::AlignTop);
    body_->addWidget(motor);

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
    add_tab(of_catalogue(), tr("Catalogue"), CardOf::motor);
    auto* compare = new CompareView(document, *table_);
    add_tab(by_hand(), tr("Datasheet"), CardOf::motor);
    add_tab(new SheetView(document), tr("Check"), CardOf::motor);
    add_tab(of_drive(), tr("Drive"), CardOf::drive);
    add_tab(new WindingsView(document), tr("Windings"), CardOf::motor);
    add_tab(compare, tr("Compare"), CardOf::motor);
    add_tab(of_heat(), tr("Heat"), CardOf::motor);
    auto* kind = new KindView(document);
    add_tab(kind, tr("Kind"), CardOf::motor);
    off_picture_ = new PictureView(document);
    auto* off_picture = new QWidget;
    auto* picture_column = new QVBoxLayout(off_picture);
    picture_column->setContentsMargins(0, 0, 0, 0);
    picture_column->setSpacing(4);
    picture_column->addWidget(off_picture_, 1);
    auto* picture_help = new HelpStrip(document);
    picture_help->setMinimumHeight(34);
    picture_column->addWidget(picture_help);
    connect(off_picture_, &PictureView::focused, picture_help, &HelpStrip::show_field);
    add_tab(off_picture, tr("Picture"), CardOf::motor);
    add_shelves();
    tabs_->setTabToolTip(picture_tab, tr("Curves of the datasheet, read off a picture of them"));
    compare_ = compare;
    of_motor_ = {motor, picture, inertia};
    show_card();
    connect(tabs_, &QTabWidget::currentChanged, this, &WhatDrives::show_card);
    connect(compare, &CompareView::room_changed, this, &WhatDrives::show_card);
    connect(cards_, &PartCards::selected, this, [this] {
        const auto last = last_tab_.find(cards_->current());
        const auto first = std::find(card_of_tab_.begin(), card_of_tab_.end(), cards_->current());
        tabs_->setCurrentIndex(last != last_tab_.end() ? last->second : static_cast<int>(first - card_of_tab_.begin()));
        show_card();
    });
    tabs_->setTabToolTip(1, tr("The datasheet of the axis' motor, typed by hand"));
    tabs_->setTabToolTip(
        2, tr("Datasheet check: every constant under every convention, and what the sheet says twice"));
    tabs_->setTabToolTip(4, tr("Other windings of the same frame: which fits this bus and this drive?"));
    tabs_->setTabToolTip(5, tr("The axis' motor beside up to four others, in numbers"));
    bottom_box->addWidget(tabs_);
    body_->addWidget(bottom, 1);
    table_->setToolTip(tr("%1. Enter or a double click takes a motor.").arg(shipped_catalogue_name()));
    connect(table_, &MotorTable::judged, this, &WhatDrives::say_count);
    connect(table_, &MotorTable::refused, &document, &Document::refused);
    connect(table_, &MotorTable::wanted, this, [this] {
        cards_->select(CardOf::motor);
        tabs_->setCurrentIndex(catalogue_tab);
        if (mapped_) map_button_->click();
    });
    connect(table_, &MotorTable::hidden_by_filter, filter_, &FilterBar::clear);
    connect(table_, &MotorTable::compared_changed, this, [this] { plot_->compare(table_->compared()); });
    connect(filter_, &FilterBar::changed, this, [this] {
        table_->set_filter(filter_->filter());
        say_count();
    });
    const auto offer = [this] {
        MotorModel& m = table_->model_of_motors();
        std::vector<const Motor*> motors;
        for (int row = 0; row < m.rowCount(); ++row)
            if (m.suits(row)) motors.push_back(&m.motor(row));
        filter_->offer(motors);
    };
    connect(&table_->model_of_motors(), &MotorModel::listed, this, offer);
    connect(table_, &MotorTable::suiting_changed, this, offer);
    offer();
    const auto enable = [this] { use_->setEnabled(table_->currentIndex().isValid()); };
    connect(table_->selectionModel(), &QItemSelectionModel::currentChanged, this, enable);
    enable();
    connect(&document, &Document::changed, this, [this] {
        if (isVisible()) refresh_card();
    });
    // another project begins where one begins
    connect(&document, &Document::opened, this, [this] {
        filter_->clear();
        last_tab_.clear();
        cards_->select(CardOf::motor);
        tabs_->setCurrentIndex(catalogue_tab);
    });
}

void WhatDrives::say_count() {
    MotorModel& m = table_->model_of_motors();
    const QString wrong = motor_library().problem();
    table_count_->setToolTip(wrong.isEmpty() ? QString() : plain_tip(tr("The library: %1").arg(wrong)));
    QString text =
        m.judging() ? tr("being judged, %1 %").arg(std::lround(100 * m.judged_share()))
        : !filter_->filter().empty()
            ? tr("%1 of %2 shown: %3").arg(table_->shown()).arg(m.suiting()).arg(counted(table_->shown_counts()))
            : counted(m.counts());
    if (!wrong.isEmpty()) text = tr("library not read");
    table_count_->setText(text);
}

void WhatDrives::make_own() {
    if (!document_.has_axis() || document_.axis().motor.empty()) return;
    document_.edit(tr("motor of one's own"), [this](Machine& m) {
        Motor& here = m.axes[static_cast<std::size_t>(document_.axis_index())].motor;
        const std::string was = here.name.empty() ? "a motor without a name" : here.name;
        const auto taken = [&](const std::string& name) {
            const auto in = [&](const auto& list) {
                return std::any_of(list.begin(), list.end(), [&](const Motor& each) { return each.name == name; });
            };
            return in(shipped_motors()) || in(m.motors) || in(motor_library().motors());
        };
        std::string name = was + ", changed";
        for (int n = 2; taken(name); ++n) name = was + ", changed " + std::to_string(n);
        here.origin = "changed from " + was + (here.origin.empty() ? "" : ", " + here.origin);
        here.name = name;
        keep_motor(m, here);
    });
}

void WhatDrives::curves_from_ratings() {
    if (!document_.has_axis()) return;
    const auto made = fulmox::curves_from_ratings(document_.axis().motor);
    if (!made) {
        said_->setText(qs(made.error()));
        return;
    }
    said_->setText(tr("an estimate: continuous by loss through both ratings, peak level to the rated speed"));
    document_.edit(tr("curves from the ratings"), [&](Machine& m) {
        Axis& axis = m.axes[static_cast<std::size_t>(document_.axis_index())];
        axis.motor.continuous = made->continuous;
        axis.motor.peak = made->peak;
        // the ratings are those of some bus; unless the sheet says which, it is this one
        if (!axis.motor.curve_voltage.given()) axis.motor.curve_voltage = axis.drive.bus_voltage;
    });
}

void WhatDrives::curve_from_file() {
    const QString file = QFileDialog::getOpenFileName(this, tr("Curve from a file"), QString(),
        tr("Tables (*.csv *.txt *.tsv);;All files (*)"), nullptr, QFileDialog::DontUseNativeDialog);
    if (!file.isEmpty()) read_curves(file);
}

void WhatDrives::read_curves(const QString& file) {
    if (const auto bytes = read_regular(file, 1 << 20); !bytes) {
        said_->setText(bytes.error());
    } else {
        const QString wrong =
            take_curves(document_, QStringLiteral("/motor/continuous"), 0, QString::fromUtf8(*bytes), true);
        said_->setText(wrong.isEmpty() ? tr("read from %1").arg(file) : wrong);
    }
}

int WhatDrives::add_tab(QWidget* page, const QString& name, CardOf card, const QString& tip) {
    card_of_tab_.push_back(card);
    const int at = tabs_->addTab(page, name);
    if (!tip.isEmpty()) tabs_->setTabToolTip(at, tip);
    return at;
}

// The tabs of the selected card, and above them what belongs to it.
void WhatDrives::show_card() {
    const int at = tabs_->currentIndex();
    if (at == catalogue_tab && isVisible()) table_->show_now();
    if (arranging_ || at < 0 || static_cast<std::size_t>(at) >= card_of_tab_.size()) return;
    const CardOf card = card_of_tab_[static_cast<std::size_t>(at)];
    last_tab_[card] = at;
    if (cards_->current() != card) {
        cards_->select(card);
        return; // which comes back here
    }
    // to show the tab that is in front moves Qt on to its neighbour
    arranging_ = true;
    for (int i = 0; i < tabs_->count(); ++i) tabs_->setTabVisible(i, card_of_tab_[static_cast<std::size_t>(i)] == card);
    tabs_->setCurrentIndex(at);
    arranging_ = false;
    // a picture is read on all the room there is, and so are other parts than the motor
    const bool whole = card != CardOf::motor;
    const bool room =
        whole || at == picture_tab || (at == compare_tab && compare_->wants_room()) || (at == catalogue_tab && mapped_);
    for (std::size_t i = 0; i < of_motor_.size(); ++i) of_motor_[i]->setVisible(i == 0 ? !whole : !room);
    emit least_changed();
}

// a datasheet, its check and a comparison want more room than rows of the catalogue
QSize WhatDrives::least() const {
    if (cards_->current() != CardOf::motor) return {760, 640};
    switch (tabs_->currentIndex()) {
    case catalogue_tab:
        return {760, mapped_ ? 640 : 800};
    case compare_tab:
        if (compare_->wants_room()) return {760, 640};
        return {760, 960};
    case picture_tab:
        return {760, 640};
    default:
        return {760, 960};
    }
}

QString WhatDrives::sentence() const { return axis_sentence(document_); }

void WhatDrives::refresh_card() {
    if (!document_.has_axis()) return;
    const Motor& m = document_.axis().motor;
    const UnitSystem system = document_.machine().unit_system;
    cards_->refresh();
    remove_->setVisible(!m.empty());
    if (m.empty()) {
        motor_facts_->setText(
            tr("Choose one below: the table judges the whole catalogue on this axis. Or type a datasheet in by hand."));
        return;
    }
    QStringList facts;
    const QuotedRatings quoted = quoted_ratings(m);
    const auto add = [&](const QString& words, double value, Kind kind) {
        if (!std::isnan(value)) facts << words.arg(qs(format_quantity(value, kind, system)));
    };
    add(m.stepper() ? tr("%1 holding") : tr("%1 continuous"), quoted.continuous,
        m.linear() ? Kind::force : Kind::torque);
    add(m.stepper() ? tr("%1 pull-out") : tr("%1 peak"), quoted.peak, m.linear() ? Kind::force : Kind::torque);
    add(tr("up to %1"), quoted.speed, m.linear() ? Kind::speed : Kind::angular_speed);
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
        const bool sine = a.can && a.can->model && a.can->model->numbers().sine_driven;
        facts << (m.stepper() ? tr("this cycle: %1 A RMS a phase, set to %2 A RMS")
                  : sine      ? tr("this cycle: %1 A RMS, %2 A RMS at the peak")
                              : tr("this cycle: %1 A RMS, %2 A at the peak"))
                     .arg(qs(format_number(rms->si, 3)), qs(format_number(peak->si, 3)));
    }
    // a line breaks between facts, not between a number and its unit
    for (QString& fact : facts) fact.replace(QLatin1Char(' '), QChar(QChar::Nbsp));
    motor_facts_->setText(facts.join(QStringLiteral(" · ")));
}

void WhatDrives::activate() {
    Page::activate();
    refresh_card();
    plot_->refresh();
    table_->judge_now();
}

bool WhatDrives::go_to(const QString& path) {
    const auto inside = [&](const char* group) {
        return path.startsWith(document_.axis_path() + QString::fromLatin1(group));
    };
    const bool drive = inside("/drive/");
    const auto open_tab = [&](const QString& name) {
        for (int i = 0; i < tabs_->count(); ++i)
            if (tabs_->tabText(i) == name) tabs_->setCurrentIndex(i);
    };
    if (drive) tabs_->setCurrentIndex(drive_tab);
    for (const auto& [group, name] : {std::pair("/coupling", tr("Coupling")), std::pair("/brake", tr("Brake")),
             std::pair("/accuracy", tr("Precision")), std::pair("/mechanism/ends", tr("Screw ends")),
             std::pair("/mechanism/nut_body", tr("Screw ends"))})
        if (inside(group)) {
            open_tab(name);
            return Page::go_to(path);
        }
    if (drive || !path.startsWith(document_.axis_path() + QStringLiteral("/motor"))) return Page::go_to(path);
    if (path.startsWith(document_.axis_path() + QStringLiteral("/motor/pictures/"))) {
        tabs_->setCurrentIndex(picture_tab);
        return off_picture_->go_to(path);
    }
    tabs_->setCurrentIndex(1);
    if (Page::go_to(path)) return true;
    if (auto* w = findChild<QWidget*>(path)) w->setFocus();
    return true;
}

} // namespace fulmox::app
