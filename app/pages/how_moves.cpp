#include "app/pages/how_moves.h"

#include "app/bricks/paint.h"
#include "app/gcode_dialog.h"
#include "app/regular_file.h"
#include "app/storage.h"
#include "app/theme.h"
#include "app/words.h"
#include "core/files/demand_text.h"
#include "core/files/trace_file.h"
#include "core/motion/trace.h"
#include "core/quantity/format.h"

#include <QFile>
#include <QFileDialog>
#include <QFileInfo>
#include <QFrame>
#include <QHBoxLayout>
#include <QInputDialog>
#include <QMessageBox>
#include <QPushButton>
#include <QVBoxLayout>

namespace fulmox::app {

HowMoves::HowMoves(Document& document, QWidget* parent) : Page(document, tr(question), parent) {
    confirm_overwrite = [this](const QString& file) {
        return QMessageBox::question(this, tr("Export the motion"),
                   tr("%1 is there already. Write over it?").arg(QFileInfo(file).fileName())) == QMessageBox::Yes;
    };
    auto* cards = new QWidget;
    auto* cards_box = new QVBoxLayout(cards);
    cards_box->setContentsMargins(0, 0, 0, 0);
    cards_box->setSpacing(6);
    list_ = new SegmentTable(document);
    list_->setFixedHeight(166);
    cards_box->addWidget(list_);
    auto* buttons = new QHBoxLayout;
    buttons->setSpacing(4);
    const auto button = [&](const QString& text, const QString& tip, auto action) {
        auto* b = new QPushButton(text);
        b->setToolTip(tip);
        b->setAccessibleName(tip);
        connect(b, &QPushButton::clicked, this, action);
        buttons->addWidget(b);
        return b;
    };
    button(tr("+ Move"), tr("Add a move after the selected segment"), [this] {
        const int at = current() + 1;
        edit_segments(
            tr("new move"), -1, at, [at](auto& s) { s.insert(s.begin() + at, Segment{}); }, at);
    })->setObjectName(QStringLiteral("add-move"));
    button(tr("+ Dwell"), tr("Add a dwell after the selected segment"), [this] {
        const int at = current() + 1;
        Segment dwell;
        dwell.what = Dwell{};
        edit_segments(
            tr("new dwell"), -1, at, [at, dwell](auto& s) { s.insert(s.begin() + at, dwell); }, at);
    })->setObjectName(QStringLiteral("add-dwell"));
    button(tr("Duplicate"), tr("Duplicate the selected segment"), [this] {
        const int at = current();
        if (at >= 0)
            edit_segments(
                tr("duplicate segment"), -1, at + 1,
                [at](auto& s) { s.insert(s.begin() + at + 1, Segment(s[static_cast<std::size_t>(at)])); }, at + 1);
    });
    button(tr("Delete"), tr("Delete the selected segment"), [this] {
        const int at = current();
        if (at >= 0)
            edit_segments(
                tr("delete segment"), at, -1, [at](auto& s) { s.erase(s.begin() + at); }, std::max(0, at - 1));
    })->setObjectName(QStringLiteral("delete-segment"));
    button(QStringLiteral("▲"), tr("Move the segment up"), [this] {
        const int at = current();
        if (at > 0)
            edit_segments(
                tr("move segment"), at, at - 1,
                [at](auto& s) { std::swap(s[static_cast<std::size_t>(at)], s[static_cast<std::size_t>(at - 1)]); },
                at - 1);
    });
    button(QStringLiteral("▼"), tr("Move the segment down"), [this] {
        const int at = current();
        if (at >= 0 && at + 1 < list_->rowCount())
            edit_segments(
                tr("move segment"), at, at + 1,
                [at](auto& s) { std::swap(s[static_cast<std::size_t>(at)], s[static_cast<std::size_t>(at + 1)]); },
                at + 1);
    });
    cards_box->addLayout(buttons);
    auto* outside = new QHBoxLayout;
    outside->setSpacing(8);
    const auto link = [&](const QString& text, const QString& tip, const char* name, auto action) {
        auto* b = new QPushButton(text);
        b->setObjectName(QStringLiteral("link"));
        b->setProperty("action", QLatin1String(name));
        b->setToolTip(tip);
        b->setAccessibleName(tip);
        connect(b, &QPushButton::clicked, this, action);
        outside->addWidget(b);
        return b;
    };
    link(tr("Import trace…"), tr("Import a recorded motion, CSV"), "import-trace", [this] {
        const QString f = QFileDialog::getOpenFileName(
            this, tr("Import a trace"), {}, tr("Traces (*.csv *.txt *.tsv);;All files (*)"));
        if (!f.isEmpty()) import_trace(f);
    });
    demand_ =
        link(tr("Import demand…"), tr("Import a table of durations, speeds and torques, CSV"), "import-demand", [this] {
            const QString f = QFileDialog::getOpenFileName(
                this, tr("Import a demand"), {}, tr("Tables (*.csv *.txt *.tsv);;All files (*)"));
            if (!f.isEmpty()) import_demand(f);
        });
    gcode_ = link(tr("Import G-code…"), tr("Import a G-code program for up to six axes"), "import-gcode", [this] {
        const QString f = QFileDialog::getOpenFileName(
            this, tr("Import G-code"), {}, tr("G-code (*.ngc *.nc *.gcode *.tap *.txt);;All files (*)"));
        if (!f.isEmpty()) say(import_gcode(document_, f, this));
    });
    link(tr("Export…"), tr("Export the planned motion, CSV"), "export-motion", [this] { ask_export(); });
    link(tr("Quick sums…"), tr("Speed for a feed, feed for a speed, moves per hour (Ctrl R)"), "quick-sums",
        [this] { emit quick_sums_requested(); });
    outside->addStretch(1);
    cards_box->addLayout(outside);
    close_ = new QPushButton;
    close_->setObjectName(QStringLiteral("link"));
    close_->setProperty("action", QStringLiteral("close-cycle"));
    close_->setToolTip(tr("Adds a move to where the cycle began, as the last move goes"));
    connect(close_, &QPushButton::clicked, this, &HowMoves::close_cycle);
    close_->hide();
    cards_box->addWidget(close_, 0, Qt::AlignLeft);
    said_ = new QLabel;
    said_->setObjectName(QStringLiteral("problem"));
    said_->setFont(type_face(12));
    said_->setWordWrap(true);
    said_->hide();
    cards_box->addWidget(said_);
    form_ = new Form(document, {QStringLiteral("/cycle/segments/0")});
    forms_.push_back(form_);

    auto* more = new QFrame;
    QVBoxLayout* more_box = make_card(more, tr("Motion summary"));
    more_box->addWidget(new FigureList(document,
        {QStringLiteral("motion.cycle_time"), QStringLiteral("motion.cycles_per_hour"), QStringLiteral("motion.duty"),
            QStringLiteral("motion.stroke"), QStringLiteral("motion.peak_speed"),
            QStringLiteral("motion.peak_acceleration"), QStringLiteral("motion.peak_jerk"),
            QStringLiteral("motion.path_per_year"), QStringLiteral("motion.shortest_ramp"),
            QStringLiteral("motion.bandwidth_needed"), QStringLiteral("demand.peak_speed")}));
    trace_note_ = new QLabel;
    trace_note_->setObjectName(QStringLiteral("second"));
    trace_note_->setFont(type_face(12));
    trace_note_->setWordWrap(true);
    trace_note_->hide();
    auto* begins = new Form(document, {QStringLiteral("/cycle/start_speed"), QStringLiteral("/cycle/start_position")});
    forms_.push_back(begins);

    auto* right = new QWidget;
    auto* column = new QVBoxLayout(right);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(10);
    auto* card = new QFrame;
    QVBoxLayout* box = make_card(card, tr("The cycle"));
    plot_ = new CyclePlot(document);
    box->addWidget(plot_, 1);
    column->addWidget(card, 1);
    auto* law_card = new QFrame;
    QVBoxLayout* law_box = make_card(law_card, tr("This move under every law"));
    laws_ = new LawTable(document);
    law_box->addWidget(laws_);
    auto* take_law = new QPushButton(tr("Use this law"));
    take_law->setObjectName(QStringLiteral("link"));
    take_law->setProperty("action", QStringLiteral("take-law"));
    take_law->setToolTip(tr("Give the selected move the law of the selected row (Enter or double-click)"));
    connect(take_law, &QPushButton::clicked, laws_, &LawTable::take);
    static_cast<QHBoxLayout*>(law_box->itemAt(0)->layout())->addWidget(take_law);
    column->addWidget(law_card);
    connect(laws_, &LawTable::shown, law_card, &QWidget::setVisible);
    connect(list_, &SegmentTable::row_changed, this, &HowMoves::select);
    connect(list_, &SegmentTable::refused, this, [this](const QString& text) {
        say(text);
        said_of_cell_ = !text.isEmpty();
    });
    connect(plot_, &CyclePlot::segment_clicked, list_, &SegmentTable::select);
    connect(&document, &Document::drafts_changed, this, [this] {
        if (isVisible()) refresh_list();
    });
    lay_out({cards, form_, trace_note_, begins, more}, right);
    refresh_list();
}

QString HowMoves::sentence() const {
    const Assessment& a = document_.assessment();
    if (!a.motion)
        return tr(
            "The cycle is the list of segments; it repeats for ever. Give each move a distance and a time, or limits.");
    const UnitSystem system = document_.machine().unit_system;
    const bool rotary = motion_of(document_.axis().mechanism).rotary;
    const std::size_t n = document_.axis().cycle.segments.size();
    const std::size_t further = document_.axis().further_cycles.size();
    const QString others = further == 0   ? QString()
                           : further == 1 ? tr("; the limits count 1 further cycle, kept in the file")
                                          : tr("; the limits count %1 further cycles, kept in the file").arg(further);
    return tr("%1 in %2, up to %3 and %4%5")
        .arg(n == 1 ? tr("1 segment") : tr("%1 segments").arg(n),
            qs(format_quantity(a.motion->duration, Kind::time, system)),
            qs(format_quantity(a.motion->peak_speed, motion_kind(Order::speed, rotary), system)),
            qs(format_quantity(a.motion->peak_acceleration, motion_kind(Order::acceleration, rotary), system)), others);
}

void HowMoves::refresh() {
    Page::refresh();
    refresh_list();
}

void HowMoves::refresh_list() {
    if (!document_.has_axis()) return;
    const int size = static_cast<int>(document_.axis().cycle.segments.size());
    const int selected = size == 0 ? -1 : std::clamp(current(), 0, size - 1);
    {
        const QSignalBlocker quiet(list_);
        list_->refresh();
        if (selected != current()) list_->select(selected);
    }
    select(selected);
    const auto& motion = document_.assessment().motion;
    // a demand that is given has a table, not a path
    const bool given = std::holds_alternative<GivenDemand>(document_.axis().mechanism);
    demand_->setVisible(given);
    gcode_->setVisible(!given);
    const Motion kind = motion_of(document_.axis().mechanism);
    const bool open = motion && must_return(kind) && !closes(*motion);
    close_->setVisible(open);
    if (open)
        close_->setText(tr("It ends %1 from where it began: add the way back")
                            .arg(qs(format_quantity(motion->advance, Kind::length, document_.machine().unit_system))));
    if (!said_of_cell_) return;
    const auto& drafts = document_.drafts().all();
    if (std::none_of(drafts.begin(), drafts.end(),
            [&](const auto& each) { return each.first.startsWith(document_.axis_path() + QStringLiteral("/cycle/")); }))
        say({});
}

void HowMoves::select(int segment) {
    form_->setVisible(segment >= 0);
    if (segment >= 0) form_->set_places({QStringLiteral("/cycle/segments/%1").arg(segment)});
    plot_->mark_segment(segment);
    laws_->show_segment(segment);
    const Trace* trace = nullptr;
    if (segment >= 0)
        trace = std::get_if<Trace>(&document_.axis().cycle.segments[static_cast<std::size_t>(segment)].what);
    trace_note_->setVisible(trace && trace->samples.rows() >= 5 && document_.assessment().motion.has_value());
    if (!trace_note_->isHidden()) {
        const bool rotary = motion_of(document_.axis().mechanism).rotary;
        const Kind kind = motion_kind(trace->of == TraceOf::position ? Order::position : Order::speed, rotary);
        trace_note_->setText(tr(
            "Averaged over %1; what that took away is %2 RMS. The plot shows the samples as dots. A wider window takes "
            "more noise and rounds corners.")
                                 .arg(qs(format_quantity(
                                          2 * half_width(*trace), Kind::time, document_.machine().unit_system)),
                                     qs(format_quantity(removed_noise(*trace, trace_pieces(*trace)), kind,
                                         document_.machine().unit_system, 3))));
    }
}

// The last move of the cycle once more, to where the cycle began, in a time that keeps its mean speed.
void HowMoves::close_cycle() {
    const auto& motion = document_.assessment().motion;
    if (!motion) return;
    const auto& segments = document_.axis().cycle.segments;
    const bool rotary = motion_of(document_.axis().mechanism).rotary;
    Segment back;
    MoveInTime move;
    move.duration = Quantity<Kind::time>("1 s");
    back.what = move;
    for (auto s = segments.rbegin(); s != segments.rend(); ++s)
        if (std::holds_alternative<MoveInTime>(s->what) || std::holds_alternative<MoveByLimits>(s->what)) {
            back.what = s->what;
            break;
        }
    const std::string start = format_exact(motion->start_position) + (rotary ? " rad" : " m");
    std::visit(
        [&](auto& m) {
            using T = std::decay_t<decltype(m)>;
            if constexpr (std::is_same_v<T, MoveInTime> || std::is_same_v<T, MoveByLimits>) {
                if constexpr (std::is_same_v<T, MoveInTime>)
                    if (m.distance.given() && m.distance.si != 0 && m.reference == Reference::from_here)
                        m.duration = Quantity<Kind::time>(
                            format_number(m.duration.si * std::abs(motion->advance / m.distance.si), 4) + " s");
                m.distance = MotionQuantity<Order::position>(
                    document_.axis().cycle.start_position.given() ? document_.axis().cycle.start_position.text : start);
                m.reference = Reference::target;
            }
        },
        back.what);
    const int at = static_cast<int>(segments.size());
    edit_segments(
        tr("move back to the start"), -1, at, [&](auto& list) { list.push_back(back); }, at);
}

void HowMoves::say(const QString& text) {
    said_of_cell_ = false;
    said_->setText(text);
    said_->setVisible(!text.isEmpty());
}

void HowMoves::import_trace(const QString& file) {
    const QFileInfo about(file);
    const auto bytes = read_regular(file, static_cast<qint64>(largest_trace_file));
    if (!bytes) return say(bytes.error());
    const QByteArray& text = *bytes;
    auto read = read_trace(std::string_view(text.constData(), static_cast<std::size_t>(text.size())),
        motion_of(document_.axis().mechanism));
    if (!read) return say(tr("%1, %2").arg(about.fileName(), qs(to_text(read.error()))));
    Segment s;
    read->trace.name = about.fileName().toStdString();
    s.what = std::move(read->trace);
    QStringList notes;
    for (const std::string& n : read->notes) notes << qs(n);
    const int at = current() + 1;
    edit_segments(
        tr("trace %1").arg(about.fileName()), -1, at, [at, &s](auto& list) { list.insert(list.begin() + at, s); }, at);
    say(notes.isEmpty() ? QString() : tr("%1: %2").arg(about.fileName(), notes.join(QStringLiteral("; "))));
}

void HowMoves::import_demand(const QString& file) {
    const auto bytes = read_regular(file, 1 << 22);
    if (!bytes) return say(bytes.error());
    take_demand(QString::fromUtf8(*bytes), QFileInfo(file).fileName());
}

void HowMoves::take_demand(const QString& text, const QString& from) {
    const DemandText read = read_demand_text(text.toStdString(), !motion_of(document_.axis().mechanism).rotary);
    QStringList wrong;
    for (const std::string& w : read.wrong) wrong << qs(w);
    if (wrong.size() > 6) wrong = wrong.mid(0, 5) << tr("and %1 more").arg(wrong.size() - 5);
    const QString said = wrong.isEmpty() ? QString() : tr("%1: %2").arg(from, wrong.join(QStringLiteral("; ")));
    if (read.cycle.segments.empty())
        return say(said.isEmpty() ? tr("%1: there is no row of numbers in it").arg(from) : said);
    const std::size_t most = 10000;
    if (read.cycle.segments.size() > most)
        return say(tr("%1: %2 rows; a cycle has at most %3").arg(from).arg(read.cycle.segments.size()).arg(most));
    document_.edit(tr("demand from %1").arg(from), [&](Machine& m) {
        Axis& axis = m.axes[static_cast<std::size_t>(document_.axis_index())];
        axis.cycle.segments = read.cycle.segments;
        axis.cycle.start_speed = read.cycle.start_speed;
        reread_motion(axis);
    });
    say(said);
}

void HowMoves::ask_export() {
    bool given = false;
    const QString text = QInputDialog::getText(
        this, tr("Export the motion"), tr("A row every"), QLineEdit::Normal, QStringLiteral("1 ms"), &given);
    if (!given) return;
    const auto step = read_quantity(text.toStdString(), Kind::time, *find_unit("ms", Kind::time));
    if (!step) return say(tr("\"%1\" is no time for a row: %2").arg(text, qs(step.error().message)));
    const QString f =
        QFileDialog::getSaveFileName(this, tr("Export the motion"), QStringLiteral("motion.csv"), tr("Traces (*.csv)"));
    if (!f.isEmpty()) export_motion(f, step->si);
}

void HowMoves::export_motion(QString file, double step) {
    const Assessment& a = document_.assessment();
    if (!a.motion) return say(tr("There is no motion to export yet; the ledger lists what is missing."));
    const double rows = a.motion->duration / step;
    if (!(step > 0) || !(rows <= most_exported_rows))
        return say(tr("A row every %1 s would make %2 rows of this cycle; allowed is a step above 0, at most "
                      "%3 rows")
                       .arg(qs(format_number(step, 4)), step > 0 ? qs(format_number(rows, 4)) : QStringLiteral("∞"),
                           qs(format_number(most_exported_rows))));
    if (QFileInfo(file).suffix().isEmpty()) {
        file += QStringLiteral(".csv");
        if (QFileInfo::exists(file) && !confirm_overwrite(file)) return; // the dialog has asked for another name
    }
    const std::string text =
        motion_csv(*a.motion, motion_of(document_.axis().mechanism), a.demand ? &*a.demand : nullptr, step);
    say(write_atomically(file, QByteArray::fromStdString(text)));
}

void HowMoves::edit_segments(
    const QString& name, int from, int to, const std::function<void(std::vector<Segment>&)>& change, int then_select) {
    document_.edit_list(name, {document_.axis_path() + QStringLiteral("/cycle/segments"), from, to},
        [&](Machine& m) { change(m.axes[static_cast<std::size_t>(document_.axis_index())].cycle.segments); });
    list_->select(then_select);
    if (from < 0) form_->focus_first(); // a new one is filled in next
}

bool HowMoves::go_to(const QString& path) {
    const QString base = document_.axis_path() + QStringLiteral("/cycle/segments");
    if (!path.startsWith(base)) return false;
    const int segment = path.mid(base.size() + 1).section(QLatin1Char('/'), 0, 0).toInt();
    if (segment < list_->rowCount()) list_->select(segment);
    if (!Page::go_to(path)) list_->setFocus();
    return true;
}

} // namespace fulmox::app
