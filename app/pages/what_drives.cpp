#include "app/pages/what_drives.h"

#include "app/bricks/paint.h"
#include "app/forms/curve_editor.h"
#include "app/library.h"
#include "app/parts/compare_view.h"
#include "app/parts/kind_view.h"
#include "app/parts/windings_view.h"
#include "app/picture/picture_view.h"
#include "app/regular_file.h"
#include "app/results/figures.h"
#include "app/results/inertia_view.h"
#include "app/results/sheet_view.h"
#include "app/sentence.h"
#include "app/shipped_motors.h"
#include "app/theme.h"
#include "app/words.h"
#include "core/motor/curves.h"
#include "core/quantity/format.h"

#include <QFile>
#include <QFileDialog>
#include <QFrame>
#include <QHBoxLayout>
#include <QScrollArea>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>
#include <cstring>

namespace fulmox::app {

namespace {

// A layout with height for width takes every preferred height for a least one; this page shares out a fixed height.
template <class Widget> class Level : public Widget {
  public:
    using Widget::Widget;
    bool hasHeightForWidth() const override { return false; }
};

constexpr int tall = 640; // a page of this height has room for the curve over a list

// The curve and the inertia statement: of one height where there is room, lower where there is not.
class Pictures : public Level<QWidget> {
  public:
    QSize sizeHint() const override { return {600, 300}; }
    QSize minimumSizeHint() const override { return {400, 170}; }
};

} // namespace

// In the order of the tabs.
const std::vector<WhatDrives::Maker>& WhatDrives::makers() {
    using W = WhatDrives;
    static const std::vector<Maker> all{
        {{.key = "catalogue", .name = QT_TR_NOOP("Catalogue"), .card = CardOf::motor, .pictured = true},
            &W::of_catalogue},
        {{.key = "datasheet",
             .name = QT_TR_NOOP("Datasheet"),
             .tip = QT_TR_NOOP("The datasheet of the axis' motor, typed by hand"),
             .card = CardOf::motor,
             .places = {"/motor"},
             .pictured = true},
            &W::by_hand},
        {{.key = "check",
             .name = QT_TR_NOOP("Check"),
             .tip = QT_TR_NOOP("Datasheet check: every constant under every convention, and whether they agree"),
             .card = CardOf::motor,
             .pictured = true},
            &W::of_check},
        {{.key = "drive", .name = QT_TR_NOOP("Drive"), .card = CardOf::drive, .places = {"/drive"}}, &W::of_drive},
        {{.key = "windings",
             .name = QT_TR_NOOP("Windings"),
             .tip = QT_TR_NOOP("Other windings of the same frame: which fits this bus and this drive?"),
             .card = CardOf::motor,
             .pictured = true},
            &W::of_windings},
        {{.key = "compare",
             .name = QT_TR_NOOP("Compare"),
             .tip = QT_TR_NOOP("The axis' motor beside up to four others, in numbers"),
             .card = CardOf::motor,
             .pictured = true},
            &W::of_compare},
        {{.key = "heat", .name = QT_TR_NOOP("Heat"), .card = CardOf::motor, .pictured = true}, &W::of_heat},
        {{.key = "kind", .name = QT_TR_NOOP("Kind"), .card = CardOf::motor, .pictured = true}, &W::of_kind},
        {{.key = "picture",
             .name = QT_TR_NOOP("Picture"),
             .tip = QT_TR_NOOP("Curves of the datasheet, read off a picture of them"),
             .card = CardOf::motor,
             .places = {"/motor/pictures/"}},
            &W::of_picture},
        {{.key = "gearheads",
             .name = QT_TR_NOOP("Gearhead catalogue"),
             .tip = QT_TR_NOOP("The ratio curve, and what can be had"),
             .card = CardOf::gearhead},
            &W::of_gearheads},
        {{.key = "couplings", .name = QT_TR_NOOP("Coupling catalogue"), .card = CardOf::coupling}, &W::of_couplings},
        {{.key = "coupling",
             .name = QT_TR_NOOP("Coupling"),
             .tip = QT_TR_NOOP("The coupling of this axis, and its results"),
             .card = CardOf::coupling,
             .places = {"/coupling"}},
            &W::of_coupling},
        {{.key = "brakes", .name = QT_TR_NOOP("Brake catalogue"), .card = CardOf::brake}, &W::of_brakes},
        {{.key = "brake",
             .name = QT_TR_NOOP("Brake"),
             .tip = QT_TR_NOOP("The brake of this axis, and how it stops it"),
             .card = CardOf::brake,
             .places = {"/brake"}},
            &W::of_brake},
        {{.key = "drives", .name = QT_TR_NOOP("Drive catalogue"), .card = CardOf::drive}, &W::of_drives},
        {{.key = "supplies",
             .name = QT_TR_NOOP("Supply catalogue"),
             .tip = QT_TR_NOOP("Sheets of supplies; no axis is judged by them yet"),
             .card = CardOf::drive},
            &W::of_supplies},
        {{.key = "screw",
             .name = QT_TR_NOOP("Screw ends"),
             .tip = QT_TR_NOOP("The plan of the screw to scale, and its ends"),
             .card = CardOf::screw,
             .places = {"/mechanism/ends", "/mechanism/nut_body"}},
            &W::of_screw},
        {{.key = "precision",
             .name = QT_TR_NOOP("Precision"),
             .tip = QT_TR_NOOP("How exactly the load stands, and what gives way"),
             .card = CardOf::precision,
             .places = {"/accuracy"}},
            &W::of_precision}};
    return all;
}

const std::vector<TabEntry>& WhatDrives::tabs() {
    static const std::vector<TabEntry> entries = [] {
        std::vector<TabEntry> out;
        for (const Maker& m : makers()) out.push_back(m.entry);
        return out;
    }();
    return entries;
}

WhatDrives::WhatDrives(Document& document, QWidget* parent) : Page(document, tr(question), parent) {
    cards_ = new PartCards(document);
    body_->addWidget(cards_);
    facts_ = new QWidget;
    auto* top = new QHBoxLayout(facts_);
    top->setContentsMargins(2, 0, 2, 0);
    top->setSpacing(14);
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
    fold_ = new QPushButton;
    fold_->setObjectName(QStringLiteral("link"));
    fold_->setProperty("action", QStringLiteral("fold-curve"));
    fold_->setToolTip(tr("Speed and torque of the motor, and the inertia it moves"));
    connect(fold_, &QPushButton::clicked, this, [this] { fold(!pictures_->isHidden()); });
    top->addWidget(motor_facts_, 1);
    top->addWidget(remove_, 0, Qt::AlignTop);
    top->addWidget(fold_, 0, Qt::AlignTop);
    body_->addWidget(facts_);

    pictures_ = new Pictures;
    auto* middle = new QHBoxLayout(pictures_);
    middle->setContentsMargins(0, 0, 0, 0);
    middle->setSpacing(10);
    auto* picture = new QFrame;
    QVBoxLayout* picture_box = make_card(picture, tr("Speed and torque at the motor"));
    curve_heading_ = picture->findChild<QLabel*>();
    plot_ = new SpeedTorquePlot(document);
    picture_box->addWidget(plot_, 1);
    middle->addWidget(picture, 5);
    auto* inertia = new QFrame;
    QLabel* unit = nullptr;
    QVBoxLayout* inertia_box = make_card(inertia, tr("Inertia at the motor shaft"), &unit);
    InertiaView::name_card(document, *inertia, *unit);
    auto* inertia_room = new QScrollArea;
    inertia_room->setWidgetResizable(true);
    inertia_room->setFocusPolicy(Qt::NoFocus);
    inertia_room->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    auto* inertia_view = new InertiaView(document, true);
    inertia_room->setWidget(inertia_view);
    inertia_view->setAutoFillBackground(false);
    inertia_room->viewport()->setAutoFillBackground(false);
    inertia_box->addWidget(inertia_room, 1);
    middle->addWidget(inertia, 3);
    body_->addWidget(pictures_, 0);

    auto* bottom = new QFrame;
    bottom->setObjectName(QStringLiteral("card"));
    auto* bottom_box = new QVBoxLayout(bottom);
    bottom_box->setContentsMargins(10, 4, 10, 8);
    tabs_ = new Level<QTabWidget>;
    tabs_->setAccessibleName(tr("Motors"));
    tabs_->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Ignored);
    tabs_->setMinimumHeight(190);
    made_.resize(makers().size());
    for (const Maker& m : makers()) {
        auto* room = new QWidget;
        (new QVBoxLayout(room))->setContentsMargins(0, 0, 0, 0);
        const int at = tabs_->addTab(room, tr(m.entry.name));
        if (m.entry.tip) tabs_->setTabToolTip(at, tr(m.entry.tip));
    }
    make(0); // which the finder and the comparison ask for motors
    show_card();
    connect(tabs_, &QTabWidget::currentChanged, this, &WhatDrives::show_card);
    connect(cards_, &PartCards::selected, this, [this] {
        const auto last = last_tab_.find(cards_->current());
        const auto first = std::find_if(
            tabs().begin(), tabs().end(), [this](const TabEntry& t) { return t.card == cards_->current(); });
        tabs_->setCurrentIndex(last != last_tab_.end() ? last->second : static_cast<int>(first - tabs().begin()));
        show_card();
    });
    connect(cards_, &PartCards::opened, this, &WhatDrives::begin);
    connect(tabs_, &QTabWidget::tabBarClicked, this, [this] { QTimer::singleShot(0, this, &WhatDrives::begin); });
    bottom_box->addWidget(tabs_);
    body_->addWidget(bottom, 1);
    // another project begins where one begins
    connect(&document, &Document::opened, this, [this] {
        filter_->clear();
        last_tab_.clear();
        folded_.clear();
        cards_->select(CardOf::motor);
        show_tab(QStringLiteral("catalogue"));
    });
}

// A form has the keyboard in its first field; a list of parts has it, so that Enter takes from it.
void WhatDrives::begin() {
    QWidget* front = tabs_->currentWidget();
    for (auto* form : front->findChildren<Form*>())
        if (form->isVisible() && form->focus_first()) return;
    for (auto* list : front->findChildren<QTableView*>())
        if (list->isVisible()) return list->setFocus(Qt::ShortcutFocusReason);
    focus_first(*front);
}

bool WhatDrives::search() {
    for (auto* words : tabs_->currentWidget()->findChildren<QLineEdit*>())
        if (words->isVisible() && words->property("searches").toBool()) {
            words->setFocus(Qt::ShortcutFocusReason);
            words->selectAll();
            return true;
        }
    return false;
}

// The contents of a tab, once.
void WhatDrives::make(int tab) {
    const auto i = static_cast<std::size_t>(tab);
    if (made_.at(i)) return;
    made_[i] = true;
    QWidget* contents = (this->*makers()[i].make)();
    tabs_->widget(tab)->layout()->addWidget(contents);
    contents->show(); // at once, so that it can take the focus
}

const TabEntry& WhatDrives::entry() const {
    return tabs().at(static_cast<std::size_t>(std::max(0, tabs_->currentIndex())));
}

bool WhatDrives::show_tab(const QString& tab) {
    for (std::size_t i = 0; i < tabs().size(); ++i)
        if (tab == QLatin1String(tabs()[i].key)) {
            if (document_.has_axis() && !has_card(document_.axis(), *tabs()[i].card)) return false;
            make(static_cast<int>(i));
            tabs_->setCurrentIndex(static_cast<int>(i));
            return true;
        }
    return false;
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
    show_tab(QStringLiteral("datasheet"));
    if (const auto bytes = read_regular(file, 1 << 20); !bytes) {
        said_->setText(bytes.error());
    } else {
        const QString wrong =
            take_curves(document_, QStringLiteral("/motor/continuous"), 0, QString::fromUtf8(*bytes), true);
        said_->setText(wrong.isEmpty() ? tr("read from %1").arg(file) : wrong);
    }
}

// The tabs of the selected card, and above them what belongs to it.
void WhatDrives::show_card() {
    const int at = tabs_->currentIndex();
    if (arranging_ || at < 0) return;
    make(at);
    if (in_front("catalogue") && isVisible()) table_->show_now();
    const CardOf card = *entry().card;
    last_tab_[card] = at;
    if (cards_->current() != card) {
        cards_->select(card);
        return; // which comes back here
    }
    // to show the tab that is in front moves Qt on to its neighbour
    arranging_ = true;
    for (int i = 0; i < tabs_->count(); ++i) tabs_->setTabVisible(i, tabs()[static_cast<std::size_t>(i)].card == card);
    tabs_->setCurrentIndex(at);
    arranging_ = false;
    facts_->setVisible(card == CardOf::motor);
    const bool pictured = folds();
    const auto wanted = folded_.find(in_front("catalogue"));
    const bool folded = wanted != folded_.end() ? wanted->second : !in_front("catalogue") || height() < tall;
    fold_->setVisible(pictured);
    fold_->setText(folded ? tr("Show curve and inertia") : tr("Hide curve and inertia"));
    pictures_->setVisible(pictured && !folded);
    emit least_changed();
}

// A picture is read, a map and curves side by side are looked at, on all the room there is.
bool WhatDrives::folds() const {
    return entry().pictured && !(in_front("compare") && compare_ && compare_->wants_room()) &&
           !(in_front("catalogue") && mapped_);
}

void WhatDrives::fold(bool on) {
    folded_[in_front("catalogue")] = on;
    show_card();
}

void WhatDrives::resizeEvent(QResizeEvent* event) {
    Page::resizeEvent(event);
    show_card();
}

QSize WhatDrives::least() const { return {760, entry().least}; }

QString WhatDrives::sentence() const { return axis_sentence(document_); }

void WhatDrives::refresh_card() {
    if (!document_.has_axis()) return;
    const bool along = motion_of(document_.axis().mechanism).direct;
    curve_heading_->setText(along ? tr("Speed and force of the motor") : tr("Speed and torque at the motor"));
    const Motor& m = document_.axis().motor;
    const UnitSystem system = document_.machine().unit_system;
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
    if (motor_numbers(m).contradicts()) facts << tr("the sheet contradicts itself: see Check");
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

void WhatDrives::refresh() {
    Page::refresh();
    refresh_card();
}

void WhatDrives::showEvent(QShowEvent* event) {
    Page::showEvent(event);
    if (in_front("catalogue")) table_->show_now();
}

bool WhatDrives::go_to(const QString& path) {
    const QString axis = document_.axis_path();
    const TabEntry* best = nullptr; // the longest place that is the beginning of the path
    std::size_t longest = 0;
    for (const TabEntry& t : tabs())
        for (const char* place : t.places)
            if (const QString whole = axis + QLatin1String(place);
                path.startsWith(whole) && std::strlen(place) > longest) {
                best = &t;
                longest = std::strlen(place);
            }
    if (!best) return Page::go_to(path);
    show_tab(QString::fromUtf8(best->key));
    if (in_front("picture")) return off_picture_->go_to(path);
    if (Page::go_to(path)) return true;
    if (auto* w = findChild<QWidget*>(path)) w->setFocus();
    return in_front("datasheet");
}

} // namespace fulmox::app
