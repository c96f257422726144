#include "app/pages/what_drives.h"

#include "app/import_parts.h"
#include "app/library.h"
#include "app/plots/overload_plot.h"
#include "app/plots/ratio_plot.h"
#include "app/shipped_motors.h"
#include "app/theme.h"
#include "app/widgets/compare_view.h"
#include "app/widgets/curve_editor.h"
#include "app/widgets/figures.h"
#include "app/widgets/inertia_view.h"
#include "app/widgets/kind_view.h"
#include "app/widgets/map_pane.h"
#include "app/widgets/paint.h"
#include "app/widgets/picture_view.h"
#include "app/widgets/precision_view.h"
#include "app/widgets/screw_view.h"
#include "app/widgets/sheet_view.h"
#include "app/widgets/shelf_view.h"
#include "app/widgets/table_columns.h"
#include "app/widgets/windings_view.h"
#include "app/words.h"
#include "core/match/coupling_kinds.h"
#include "core/match/figures.h"
#include "core/motor/curves.h"
#include "core/quantity/format.h"

#include <QFile>
#include <QFileDialog>
#include <QFrame>
#include <QHBoxLayout>
#include <QScrollArea>
#include <QStackedWidget>
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

namespace {

// Keys of the figures in these rooms.
QStringList keys_of(std::initializer_list<const char*> rooms) {
    QStringList keys;
    for (const FigureRow& row : figure_rows())
        for (const char* room : rooms)
            if (QString::fromUtf8(row.key).startsWith(QLatin1String(room))) keys << QString::fromUtf8(row.key);
    return keys;
}

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
    auto* catalogue = new QWidget;
    auto* catalogue_box = new QVBoxLayout(catalogue);
    catalogue_box->setContentsMargins(0, 4, 0, 0);
    catalogue_box->setSpacing(4);
    table_ = new MotorTable(document);
    auto* filters = new QHBoxLayout;
    filters->setSpacing(4);
    filter_ = new FilterBar;
    filters->addWidget(filter_, 1);
    auto* as_map = new QPushButton(tr("Map"));
    as_map->setObjectName(QStringLiteral("link"));
    as_map->setCheckable(true);
    as_map->setAccessibleName(tr("Map of motors"));
    as_map->setToolTip(tr("One column against another, in place of the table"));
    auto* import = new QPushButton(tr("Import…"));
    import->setObjectName(QStringLiteral("link"));
    import->setAccessibleName(tr("Import motors"));
    import->setToolTip(tr("Takes in a list of motors, CSV or JSON"));
    connect(import, &QPushButton::clicked, this, [this] { import_list("motor"); });
    catalogue_box->addLayout(filters);
    auto* map = new MapPane(*table_, QStringLiteral("motor"));
    connect(map, &MapPane::taken, table_, &MotorTable::choose_current);
    connect(table_, &MotorTable::judged, map, [map] {
        if (map->isVisible()) map->refresh();
    });
    auto* places = new QStackedWidget;
    places->addWidget(table_);
    places->addWidget(map);
    connect(as_map, &QPushButton::toggled, places, [this, places, as_map](bool on) {
        places->setCurrentIndex(on ? 1 : 0);
        as_map->setText(on ? tr("Table") : tr("Map"));
        mapped_ = on;
        show_card();
    });
    catalogue_box->addWidget(places, 1);
    auto* below = new QHBoxLayout;
    table_count_ = new QLabel;
    table_count_->setObjectName(QStringLiteral("second"));
    table_count_->setFont(type_face(12));
    use_ = new QPushButton(tr("Use this motor"));
    use_->setObjectName(QStringLiteral("primary"));
    connect(use_, &QPushButton::clicked, table_, &MotorTable::choose_current);
    below->setSpacing(12);
    below->addWidget(table_count_, 1);
    below->addWidget(as_map);
    below->addWidget(columns_button(*table_, tr("Columns of the catalogue")));
    below->addWidget(import);
    below->addWidget(use_);
    catalogue_box->insertLayout(0, below);
    add_tab(catalogue, tr("Catalogue"), CardOf::motor);
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
}

void WhatDrives::say_count() {
    MotorModel& m = table_->model_of_motors();
    const QString wrong = motor_library().problem();
    table_count_->setToolTip(wrong.isEmpty() ? QString() : plain_tip(tr("The library: %1").arg(wrong)));
    QString text = m.judging() ? tr("being judged, %1 %").arg(std::lround(100 * m.judged_share()))
                   : !filter_->filter().empty()
                       ? tr("%1 of %2 shown carry it").arg(table_->shown_fitting()).arg(table_->shown())
                       : tr("%1 of %2 carry it").arg(m.fitting()).arg(m.suiting());
    if (!wrong.isEmpty()) text = tr("library not read");
    table_count_->setText(text);
}

// What can be done with a whole datasheet, over its fields.
QWidget* WhatDrives::sheet_tools() {
    auto* tools = new QWidget;
    auto* line = new QHBoxLayout(tools);
    line->setContentsMargins(2, 0, 2, 0);
    line->setSpacing(12);
    const auto link = [&](const QString& text, const QString& tip, auto act) {
        auto* b = new QPushButton(text);
        b->setObjectName(QStringLiteral("link"));
        b->setToolTip(tip);
        connect(b, &QPushButton::clicked, this, act);
        line->addWidget(b);
    };
    link(tr("Curves from the ratings"),
        tr("Continuous and peak curve from standstill, rated and peak torque and the maximum speed: an estimate"),
        [this] { curves_from_ratings(); });
    link(tr("Curve from a file…"), tr("CSV or text of two or three columns: speed, continuous and peak torque"),
        [this] { curve_from_file(); });
    link(tr("Curve off a picture"), tr("Points clicked on a picture of the datasheet"),
        [this] { tabs_->setCurrentIndex(picture_tab); });
    link(tr("Make it my own"),
        tr("A name of its own for what has been changed from the catalogue; where it came from stays said"),
        [this] { make_own(); });
    link(tr("Keep in my library"), tr("Keeps a copy for other projects"), [this] {
        const QString wrong = motor_library().add(document_.axis().motor);
        said_->setText(wrong.isEmpty() ? tr("kept in %1").arg(motor_library().file()) : wrong);
    });
    said_ = new QLabel;
    said_->setObjectName(QStringLiteral("second"));
    said_->setFont(type_face(12));
    said_->setTextFormat(Qt::PlainText);
    said_->setWordWrap(true);
    line->addWidget(said_, 1);
    return tools;
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
    QFile f(file);
    constexpr qint64 largest = 1 << 20;
    if (!f.open(QIODevice::ReadOnly)) {
        said_->setText(tr("%1 cannot be read: %2").arg(file, f.errorString()));
    } else if (f.size() > largest) {
        said_->setText(tr("%1 has %2 MB; a curve of at most 1 MB is read").arg(file).arg(f.size() >> 20));
    } else {
        const QString wrong =
            take_curves(document_, QStringLiteral("/motor/continuous"), 0, QString::fromUtf8(f.readAll()), true);
        said_->setText(wrong.isEmpty() ? tr("read from %1").arg(file) : wrong);
    }
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
    static_cast<QVBoxLayout*>(tab.page->layout())->insertWidget(0, sheet_tools());
    auto* form = new Form(document_, {QStringLiteral("/motor")}, 118);
    forms_.push_back(form);
    tab.line->addWidget(form, 1, Qt::AlignTop);
    auto* continuous = new CurveEditor(document_, tr("Continuous curve"), QStringLiteral("/motor/continuous"));
    auto* peak = new CurveEditor(document_, tr("Peak curve"), QStringLiteral("/motor/peak"));
    // one below the other: beside one another they leave the fields no room for their conversions
    auto* curves = new QVBoxLayout;
    curves->addWidget(continuous);
    curves->addWidget(peak);
    auto* pull_in = new CurveEditor(document_, tr("Pull-in curve"), QStringLiteral("/motor/pull_in"));
    curves->addWidget(pull_in);
    curves->addStretch(1);
    tab.line->addLayout(curves);
    const auto name_curves = [this, continuous, peak, pull_in] {
        const bool stepper = document_.has_axis() && document_.axis().motor.stepper();
        continuous->setVisible(!stepper || !document_.axis().motor.continuous.empty());
        pull_in->setVisible(stepper);
        peak->set_title(stepper ? tr("Pull-out curve") : tr("Peak curve"));
    };
    name_curves();
    connect(&document_, &Document::changed, peak, name_curves);
    for (Form* f : forms_) connect(f, &Form::focused, tab.help, &HelpStrip::show_field);
    for (CurveEditor* c : {continuous, peak, pull_in})
        connect(c, &CurveEditor::focused, tab.help, &HelpStrip::show_field);
    return tab.page;
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

// The fields of a part beside what they come to.
QWidget* WhatDrives::of_part(const QStringList& places, std::initializer_list<const char*> rooms) {
    const Tab tab = scrolling_tab(16);
    auto* form = new Form(document_, places, 128);
    forms_.push_back(form);
    connect(form, &Form::focused, tab.help, &HelpStrip::show_field);
    auto* list = new FigureList(document_, keys_of(rooms), 1, false);
    tab.line->addWidget(form, 3, Qt::AlignTop);
    tab.line->addWidget(list, 2, Qt::AlignTop);
    connect(&document_, &Document::changed, list, [list] {
        if (list->isVisible()) list->refresh();
    });
    connect(tabs_, &QTabWidget::currentChanged, list, [this, list, page = tab.page] {
        if (tabs_->currentWidget() == page) list->refresh();
    });
    return tab.page;
}

// The ratio curve over the gearheads that can be had.
QWidget* WhatDrives::of_gearheads() {
    auto* page = new QWidget;
    auto* box = new QVBoxLayout(page);
    box->setContentsMargins(0, 4, 0, 0);
    ratio_ = new RatioPlot(document_);
    ratio_->setMinimumHeight(250);
    box->addWidget(ratio_, 6);
    gearheads_ = new ShelfView(document_, "gearhead");
    box->addWidget(gearheads_, 5);
    connect(&gearheads_->model(), &ShelfModel::judged, ratio_, [this] {
        const ShelfModel& m = gearheads_->model();
        std::vector<std::pair<std::size_t, RatioPlot::Offer>> by_rank;
        for (int row = 0; row < m.rowCount(); ++row) {
            const Stage& s = m.parts().gearheads[static_cast<std::size_t>(row)];
            if (const Candidate* c = m.candidate(row); c && s.ratio.given())
                by_rank.push_back({m.rank_of(row), {s.name, s.ratio.si, c->state, row}});
        }
        std::stable_sort(
            by_rank.begin(), by_rank.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
        std::vector<RatioPlot::Offer> offers;
        for (auto& [rank, offer] : by_rank) offers.push_back(std::move(offer));
        ratio_->set_stage(gearheads_->place());
        ratio_->offer(std::move(offers));
    });
    connect(ratio_, &RatioPlot::taken, gearheads_, [this](int row) {
        gearheads_->show_row(row);
        gearheads_->take_current();
    });
    return page;
}

void WhatDrives::import_list(const char* kind) {
    const QString file =
        QFileDialog::getOpenFileName(this, tr("Import parts"), {}, tr("Parts lists (*.csv *.tsv *.txt *.json)"));
    if (file.isEmpty()) return;
    const QString wrong = import_parts(document_, file, QString::fromUtf8(kind), this);
    if (!wrong.isEmpty()) emit document_.refused(wrong);
}

void WhatDrives::add_shelves() {
    const auto shelf = [this](ShelfView* view, const char* kind) {
        connect(view, &ShelfView::refused, &document_, &Document::refused);
        connect(view, &ShelfView::import_requested, this, [this, kind] { import_list(kind); });
        connect(view, &ShelfView::sheet_requested, this, [this, view] {
            emit go_to_requested(document_.axis_path() + QStringLiteral("/stages/%1/ratio").arg(view->place()));
        });
        connect(view, &ShelfView::dropped, this, [this, kind](const QString& file) {
            const QString wrong = import_parts(document_, file, QString::fromUtf8(kind), this);
            if (!wrong.isEmpty()) emit document_.refused(wrong);
        });
        return view;
    };
    add_tab(of_gearheads(), tr("Gearheads"), CardOf::gearhead, tr("The ratio curve, and what can be had"));
    shelf(gearheads_, "gearhead");
    add_tab(shelf(new ShelfView(document_, "coupling"), "coupling"), tr("Couplings"), CardOf::coupling);
    auto* coupling = of_part({QStringLiteral("/coupling")}, {"coupling."});
    auto* kinds = new QLabel;
    kinds->setObjectName(QStringLiteral("coupling-kinds"));
    kinds->setFont(type_face(12));
    kinds->setWordWrap(true);
    kinds->setTextFormat(Qt::PlainText);
    static_cast<QVBoxLayout*>(coupling->layout())->insertWidget(1, kinds);
    const auto say_kinds = [this, kinds] {
        if (!document_.has_axis()) return;
        QStringList lines;
        for (const CouplingAdvice& k : coupling_kinds(document_.axis(), document_.assessment())) {
            QStringList against;
            for (const Text& t : k.against) against << qs(t.in(document_.machine().unit_system));
            const QString what = QString::fromUtf8(k.label) + QStringLiteral(": ") + QString::fromUtf8(k.traits);
            lines << (against.isEmpty() ? tr("%1.").arg(what)
                                        : tr("%1. Why not: %2.").arg(what, against.join(QStringLiteral("; "))));
        }
        kinds->setText(lines.join(QLatin1Char('\n')));
    };
    connect(&document_, &Document::changed, kinds, [kinds, say_kinds] {
        if (kinds->isVisible()) say_kinds();
    });
    connect(tabs_, &QTabWidget::currentChanged, kinds, [this, coupling, say_kinds] {
        if (tabs_->currentWidget() == coupling) say_kinds();
    });
    add_tab(coupling, tr("Coupling"), CardOf::coupling, tr("The coupling of this axis, and what it comes to"));
    add_tab(shelf(new ShelfView(document_, "brake"), "brake"), tr("Brakes"), CardOf::brake);
    add_tab(of_part({QStringLiteral("/brake")}, {"brake."}), tr("Brake"), CardOf::brake,
        tr("The brake of this axis, and how it stops it"));
    add_tab(shelf(new ShelfView(document_, "drive"), "drive"), tr("Drives"), CardOf::drive);
    add_tab(shelf(new ShelfView(document_, "supply"), "supply"), tr("Supplies"), CardOf::drive,
        tr("Sheets of supplies; no axis is judged by them yet"));
    auto* screw = of_part({QStringLiteral("/mechanism/ends"), QStringLiteral("/mechanism/nut_body")}, {"screw."});
    auto* screw_view = new ScrewView(document_);
    static_cast<QVBoxLayout*>(screw->layout())->insertWidget(0, screw_view, 1);
    add_tab(screw, tr("Screw ends"), CardOf::screw, tr("The plan of the screw to scale, and its ends"));
    auto* precision = of_part({QStringLiteral("/accuracy")}, {"precision.", "stiffness."});
    static_cast<QVBoxLayout*>(precision->layout())->insertWidget(1, new PrecisionView(document_), 1);
    add_tab(precision, tr("Precision"), CardOf::precision, tr("How exactly the load stands, and what gives way"));
}

// Its currents, its voltage, and what it lets the motor do.
QWidget* WhatDrives::of_drive() {
    const Tab tab = scrolling_tab(16);
    const QString d = QStringLiteral("/drive/");
    auto* column = new QVBoxLayout;
    column->setSpacing(10);
    auto* forms = new QHBoxLayout;
    forms->setSpacing(16);
    column->addLayout(forms);
    tab.line->addLayout(column, 1);
    for (const QStringList& keys :
        {QStringList{d + "name", d + "bus_voltage", d + "continuous_current", d + "peak_current", d + "peak_time",
             d + "currents_in", d + "standstill_share", d + "derating", d + "derates_from", d + "derating_rate",
             d + "derates_above", d + "altitude_rate", d + "torque_limit", d + "phase_current", d + "dial_in",
             d + "idle_current", d + "idle_delay", d + "microsteps", d + "pulse_limit", d + "pulse_input",
             d + "ramp_start", d + "most_current", d + "stop_time", d + "stop_distance", d + "emergency_torque",
             d + "emergency_stops", d + "mass", d + "price"},
            QStringList{d + "modulation", d + "modulation_reserve", d + "field_weakening", d + "mains_tolerance",
                d + "bus_droop", d + "mains_rise", d + "lowest_voltage", d + "highest_voltage", d + "trip_voltage",
                d + "top_frequency", d + "cold", d + "hot", d + "own_loss", d + "encoder", d + "reads_hall",
                d + "reads_incremental", d + "reads_sine_cosine", d + "reads_serial", d + "reads_resolver",
                d + "controller", d + "takes_pulses", d + "takes_analog", d + "takes_network"}}) {
        auto* form = new Form(document_, keys, 128);
        forms_.push_back(form);
        connect(form, &Form::focused, tab.help, &HelpStrip::show_field);
        forms->addWidget(form, 1, Qt::AlignTop);
    }
    // what the settings of the drive come to
    auto* list = new FigureList(document_, keys_of({"drive.", "stepper."}), 2, false);
    column->addWidget(list);
    column->addStretch(1);
    const auto show = [this, list] {
        list->setVisible(document_.has_axis() && document_.axis().driven());
        list->refresh();
    };
    show();
    connect(&document_, &Document::changed, list, show);
    return tab.page;
}

// How hot it gets, what it takes from the mains, and how long it bears more.
QWidget* WhatDrives::of_heat() {
    auto* page = new QWidget;
    auto* line = new QHBoxLayout(page);
    line->setContentsMargins(2, 4, 2, 0);
    line->setSpacing(16);
    auto* list = new FigureList(document_, keys_of({"heat.", "energy.", "life."}));
    auto* scroll = new QScrollArea;
    scroll->setWidgetResizable(true);
    scroll->setFocusPolicy(Qt::NoFocus);
    auto* inner = new QWidget;
    inner->setObjectName(QStringLiteral("clear"));
    auto* column = new QVBoxLayout(inner);
    column->setContentsMargins(0, 0, 6, 0);
    column->addWidget(list);
    column->addStretch(1);
    scroll->setWidget(inner);
    line->addWidget(scroll, 1);
    line->addWidget(new OverloadPlot(document_), 1);
    connect(&document_, &Document::changed, list, [list] {
        if (list->isVisible()) list->refresh();
    });
    connect(tabs_, &QTabWidget::currentChanged, list, [list] { list->refresh(); });
    return page;
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
