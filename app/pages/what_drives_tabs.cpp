// The tabs of page 4, one after the other.
#include "app/pages/what_drives.h"

#include "app/bricks/paint.h"
#include "app/bricks/table_columns.h"
#include "app/forms/curve_editor.h"
#include "app/import_parts.h"
#include "app/library.h"
#include "app/parts/compare_view.h"
#include "app/parts/kind_view.h"
#include "app/parts/map_pane.h"
#include "app/parts/shelf_view.h"
#include "app/parts/windings_view.h"
#include "app/picture/picture_view.h"
#include "app/plots/overload_plot.h"
#include "app/plots/ratio_plot.h"
#include "app/results/figures.h"
#include "app/results/precision_view.h"
#include "app/results/screw_view.h"
#include "app/results/sheet_view.h"
#include "app/shipped_motors.h"
#include "app/theme.h"
#include "app/words.h"
#include "core/match/coupling_kinds.h"
#include "core/match/figures.h"
#include "core/motor/curves.h"

#include <QFileDialog>
#include <QHBoxLayout>
#include <QScrollArea>
#include <QVBoxLayout>
#include <algorithm>

namespace fulmox::app {

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

// Every motor that can be had, as a table or a map.
QWidget* WhatDrives::of_catalogue() {
    auto* catalogue = new QWidget;
    auto* box = new QVBoxLayout(catalogue);
    box->setContentsMargins(0, 4, 0, 0);
    box->setSpacing(4);
    table_ = new MotorTable(document_);
    table_->setToolTip(tr("%1. Enter or a double click takes a motor.").arg(shipped_catalogue_name()));
    auto* line = new QHBoxLayout;
    line->setSpacing(12);
    table_count_ = new QLabel;
    table_count_->setObjectName(QStringLiteral("second"));
    table_count_->setFont(type_face(12));
    line->addWidget(table_count_, 1);
    auto* places = new TableOrMap(*table_, QStringLiteral("motor"), tr("Map of motors"));
    map_button_ = places->button();
    connect(places, &TableOrMap::taken, table_, &MotorTable::choose_current);
    connect(places, &TableOrMap::turned, this, [this](bool on) {
        mapped_ = on;
        show_card();
    });
    line->addWidget(places->button());
    line->addWidget(columns_button(*table_, tr("Columns of the catalogue")));
    auto* import = new QPushButton(tr("Import…"));
    import->setObjectName(QStringLiteral("link"));
    import->setAccessibleName(tr("Import motors"));
    import->setToolTip(tr("Takes in a list of motors, CSV or JSON"));
    connect(import, &QPushButton::clicked, this, [this] { import_list("motor"); });
    line->addWidget(import);
    use_ = new QPushButton(tr("Use this motor"));
    use_->setObjectName(QStringLiteral("primary"));
    connect(use_, &QPushButton::clicked, table_, &MotorTable::choose_current);
    line->addWidget(use_);
    box->addLayout(line);
    filter_ = new FilterBar;
    box->addWidget(filter_);
    box->addWidget(places, 1);
    connect(table_, &MotorTable::judged, this, &WhatDrives::say_count);
    connect(table_, &MotorTable::refused, &document_, &Document::refused);
    connect(table_, &MotorTable::wanted, this, [this] {
        cards_->select(CardOf::motor);
        show_tab(QStringLiteral("catalogue"));
        if (mapped_) map_button_->click();
    });
    connect(table_, &MotorTable::hidden_by_filter, filter_, &FilterBar::clear);
    connect(table_, &MotorTable::compared_changed, this, [this] { plot_->compare(table_->compared()); });
    connect(filter_, &FilterBar::left, table_, qOverload<>(&QWidget::setFocus));
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
    return catalogue;
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
        [this] { show_tab(QStringLiteral("picture")); });
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

// A tab whose contents scroll, over the help of the field that has the focus.
WhatDrives::Fields WhatDrives::scrolling_tab(int spacing) {
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
    const Fields tab = scrolling_tab(6);
    static_cast<QVBoxLayout*>(tab.page->layout())->insertWidget(0, sheet_tools());
    auto* form = new Form(document_, {QStringLiteral("/motor")}, 128);
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
    keep_up_to_date(document_, tab.page, name_curves);
    connect(form, &Form::focused, tab.help, &HelpStrip::show_field);
    for (CurveEditor* c : {continuous, peak, pull_in})
        connect(c, &CurveEditor::focused, tab.help, &HelpStrip::show_field);
    return tab.page;
}

// The fields of a part beside what they come to.
QWidget* WhatDrives::of_part(const QStringList& places, std::initializer_list<const char*> rooms) {
    const Fields tab = scrolling_tab(16);
    auto* form = new Form(document_, places, 128);
    forms_.push_back(form);
    connect(form, &Form::focused, tab.help, &HelpStrip::show_field);
    auto* list = new FigureList(document_, keys_of(rooms), 1, false);
    tab.line->addWidget(form, 3, Qt::AlignTop);
    tab.line->addWidget(list, 2, Qt::AlignTop);
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
    gearheads_ = static_cast<ShelfView*>(of_shelf("gearhead"));
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
    import_parts(document_, file, QString::fromUtf8(kind), this);
}

// The catalogue of a kind of part.
QWidget* WhatDrives::of_shelf(const char* kind) {
    auto* view = new ShelfView(document_, kind);
    connect(view, &ShelfView::refused, &document_, &Document::refused);
    connect(view, &ShelfView::import_requested, this, [this, kind] { import_list(kind); });
    connect(view, &ShelfView::sheet_requested, this, [this, view] {
        emit go_to_requested(document_.axis_path() + QStringLiteral("/stages/%1/ratio").arg(view->place()));
    });
    connect(view, &ShelfView::dropped, this,
        [this, kind](const QString& file) { import_parts(document_, file, QString::fromUtf8(kind), this); });
    return view;
}

QWidget* WhatDrives::of_check() { return new SheetView(document_); }

QWidget* WhatDrives::of_windings() { return new WindingsView(document_); }

QWidget* WhatDrives::of_kind() { return new KindView(document_); }

QWidget* WhatDrives::of_compare() {
    compare_ = new CompareView(document_, *table_);
    connect(compare_, &CompareView::room_changed, this, &WhatDrives::show_card);
    return compare_;
}

QWidget* WhatDrives::of_picture() {
    auto* page = new QWidget;
    auto* column = new QVBoxLayout(page);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(4);
    off_picture_ = new PictureView(document_);
    column->addWidget(off_picture_, 1);
    auto* help = new HelpStrip(document_);
    help->setMinimumHeight(34);
    column->addWidget(help);
    connect(off_picture_, &PictureView::focused, help, &HelpStrip::show_field);
    return page;
}

QWidget* WhatDrives::of_coupling() {
    auto* coupling = of_part({QStringLiteral("/coupling")}, {"coupling."});
    auto* kinds = new QLabel;
    kinds->setObjectName(QStringLiteral("coupling-kinds"));
    kinds->setFont(type_face(12));
    kinds->setWordWrap(true);
    kinds->setTextFormat(Qt::PlainText);
    static_cast<QVBoxLayout*>(coupling->layout())->insertWidget(1, kinds);
    keep_up_to_date(document_, kinds, [this, kinds] {
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
    });
    return coupling;
}

QWidget* WhatDrives::of_brake() { return of_part({QStringLiteral("/brake")}, {"brake."}); }

QWidget* WhatDrives::of_screw() {
    auto* screw = of_part({QStringLiteral("/mechanism/ends"), QStringLiteral("/mechanism/nut_body")}, {"screw."});
    static_cast<QVBoxLayout*>(screw->layout())->insertWidget(0, new ScrewView(document_), 1);
    return screw;
}

QWidget* WhatDrives::of_precision() {
    auto* precision = of_part({QStringLiteral("/accuracy")}, {"precision.", "stiffness."});
    static_cast<QVBoxLayout*>(precision->layout())->insertWidget(1, new PrecisionView(document_), 1);
    return precision;
}

// Its currents, its voltage, and what it lets the motor do.
QWidget* WhatDrives::of_drive() {
    const Fields tab = scrolling_tab(16);
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
    keep_up_to_date(
        document_, tab.page, [this, list] { list->setVisible(document_.has_axis() && document_.axis().driven()); });
    return tab.page;
}

// How hot it gets, what it takes from the mains, and how long it may be overloaded.
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
    return page;
}

} // namespace fulmox::app
