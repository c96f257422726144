#include "app/pages/how_moves.h"

#include "app/gcode_dialog.h"
#include "app/theme.h"
#include "app/widgets/paint.h"
#include "core/files/trace_file.h"
#include "core/motion/trace.h"
#include "core/quantity/format.h"

#include <QFile>
#include <QFileDialog>
#include <QFileInfo>
#include <QFrame>
#include <QHBoxLayout>
#include <QPushButton>
#include <QSaveFile>
#include <QVBoxLayout>

namespace fulmox::app {

namespace {

QString qs(const std::string& s) { return QString::fromStdString(s); }
QString or_question(const QuantityBase& q) { return q.given() ? qs(q.text) : QStringLiteral("?"); }

} // namespace

namespace {

struct Sentence {
    QString operator()(const MoveInTime& m) const {
        return QObject::tr("move %1%2 in %3%4")
            .arg(m.reference == Reference::target ? QObject::tr("to ") : QString(), or_question(m.distance),
                or_question(m.duration),
                m.law == Law::trapezoid
                    ? QString()
                    : QStringLiteral(", ") + QString::fromUtf8(laws[static_cast<std::size_t>(m.law)].label).toLower());
    }
    QString operator()(const MoveByLimits& m) const {
        return QObject::tr("move %1%2 at up to %3")
            .arg(m.reference == Reference::target ? QObject::tr("to ") : QString(), or_question(m.distance),
                or_question(m.speed));
    }
    QString operator()(const SpeedChange& c) const {
        return QObject::tr("change to %1 in %2").arg(or_question(c.speed), or_question(c.duration));
    }
    QString operator()(const ConstantSpeed& c) const {
        return QObject::tr("onwards for %1")
            .arg(or_question(c.distance.given() ? static_cast<const QuantityBase&>(c.distance) : c.duration));
    }
    QString operator()(const Jog& j) const {
        return QObject::tr("jog at %1 for %2").arg(or_question(j.speed), or_question(j.duration));
    }
    QString operator()(const Dwell& d) const {
        return QObject::tr("dwell %1").arg(or_question(d.duration)) +
               (d.brake_holds ? QObject::tr(", brake holds") : QString());
    }
    QString operator()(const Repeat& r) const {
        return QObject::tr("the %1 before, %2 times in all").arg(or_question(r.segments), or_question(r.times));
    }
    QString operator()(const Trace& t) const {
        return QObject::tr("trace %1, %2 samples").arg(qs(t.name)).arg(t.samples.rows());
    }
    QString operator()(const PlannedPath& p) const {
        return QObject::tr("path of %1, %2 knots").arg(qs(p.name)).arg(p.knots.rows());
    }
};

} // namespace

QString segment_sentence(const Segment& s) {
    QString text = std::visit(Sentence{}, s.what);
    if (s.payload.given()) text += QObject::tr(", from here %1").arg(qs(s.payload.text));
    if (s.process_force.given()) text += QObject::tr(", pushing %1").arg(qs(s.process_force.text));
    return text;
}

HowMoves::HowMoves(Document& document, QWidget* parent) : Page(document, tr("How must it move?"), parent) {
    auto* cards = new QWidget;
    auto* cards_box = new QVBoxLayout(cards);
    cards_box->setContentsMargins(0, 0, 0, 0);
    cards_box->setSpacing(6);
    list_ = new QListWidget;
    list_->setObjectName(QStringLiteral("segments"));
    list_->setAccessibleName(tr("Segments of the cycle"));
    list_->setWordWrap(true);
    list_->setFixedHeight(150);
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
            tr("new move"), [at](auto& s) { s.insert(s.begin() + at, Segment{}); }, at);
    })->setObjectName(QStringLiteral("add-move"));
    button(tr("+ Dwell"), tr("Add a dwell after the selected segment"), [this] {
        const int at = current() + 1;
        Segment dwell;
        dwell.what = Dwell{};
        edit_segments(
            tr("new dwell"), [at, dwell](auto& s) { s.insert(s.begin() + at, dwell); }, at);
    })->setObjectName(QStringLiteral("add-dwell"));
    button(tr("Duplicate"), tr("Duplicate the selected segment"), [this] {
        const int at = current();
        if (at >= 0)
            edit_segments(
                tr("duplicate segment"),
                [at](auto& s) { s.insert(s.begin() + at + 1, Segment(s[static_cast<std::size_t>(at)])); }, at + 1);
    });
    button(tr("Delete"), tr("Delete the selected segment"), [this] {
        const int at = current();
        if (at >= 0)
            edit_segments(
                tr("delete segment"), [at](auto& s) { s.erase(s.begin() + at); }, std::max(0, at - 1));
    })->setObjectName(QStringLiteral("delete-segment"));
    button(QStringLiteral("▲"), tr("Move the segment up"), [this] {
        const int at = current();
        if (at > 0)
            edit_segments(
                tr("move segment"),
                [at](auto& s) { std::swap(s[static_cast<std::size_t>(at)], s[static_cast<std::size_t>(at - 1)]); },
                at - 1);
    });
    button(QStringLiteral("▼"), tr("Move the segment down"), [this] {
        const int at = current();
        if (at >= 0 && at + 1 < list_->count())
            edit_segments(
                tr("move segment"),
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
    };
    link(tr("Import trace…"), tr("Import a recorded motion, CSV"), "import-trace", [this] {
        const QString f = QFileDialog::getOpenFileName(
            this, tr("Import a trace"), {}, tr("Traces (*.csv *.txt *.tsv);;All files (*)"));
        if (!f.isEmpty()) import_trace(f);
    });
    link(tr("Import G-code…"), tr("Import a G-code program for up to six axes"), "import-gcode", [this] {
        const QString f = QFileDialog::getOpenFileName(
            this, tr("Import G-code"), {}, tr("G-code (*.ngc *.nc *.gcode *.tap *.txt);;All files (*)"));
        if (!f.isEmpty()) say(import_gcode(document_, f, this));
    });
    link(tr("Export…"), tr("Export the planned motion, CSV"), "export-motion", [this] {
        QString f = QFileDialog::getSaveFileName(
            this, tr("Export the motion"), QStringLiteral("motion.csv"), tr("Traces (*.csv)"));
        if (!f.isEmpty()) export_motion(f);
    });
    outside->addStretch(1);
    cards_box->addLayout(outside);
    said_ = new QLabel;
    said_->setObjectName(QStringLiteral("problem"));
    said_->setFont(type_face(12));
    said_->setWordWrap(true);
    said_->hide();
    cards_box->addWidget(said_);
    form_ = new Form(document, {QStringLiteral("/cycle/segments/0")});
    forms_.push_back(form_);

    auto* more = new QFrame;
    QVBoxLayout* more_box = make_card(more, tr("What it comes to"));
    more_box->addWidget(new FigureList(document,
        {QStringLiteral("motion.cycle_time"), QStringLiteral("motion.cycles_per_hour"), QStringLiteral("motion.duty"),
            QStringLiteral("motion.stroke"), QStringLiteral("motion.peak_speed"),
            QStringLiteral("motion.peak_acceleration"), QStringLiteral("motion.peak_jerk"),
            QStringLiteral("motion.path_per_year"), QStringLiteral("demand.peak_speed")}));
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
    column->addWidget(law_card);
    connect(laws_, &LawTable::shown, law_card, &QWidget::setVisible);
    connect(list_, &QListWidget::currentRowChanged, this, &HowMoves::select);
    connect(plot_, &CyclePlot::segment_clicked, list_, qOverload<int>(&QListWidget::setCurrentRow));
    connect(&document, &Document::changed, this, [this] {
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
    return tr("%1 segments in %2, up to %3 and %4")
        .arg(document_.axis().cycle.segments.size())
        .arg(qs(format_quantity(a.motion->duration, Kind::time, system)),
            qs(format_quantity(a.motion->peak_speed, motion_kind(Order::speed, rotary), system)),
            qs(format_quantity(a.motion->peak_acceleration, motion_kind(Order::acceleration, rotary), system)));
}

void HowMoves::activate() {
    Page::activate();
    refresh_list();
    plot_->refresh();
    for (FigureList* l : findChildren<FigureList*>()) l->refresh();
}

void HowMoves::refresh_list() {
    if (!document_.has_axis()) return;
    const auto& segments = document_.axis().cycle.segments;
    const QSignalBlocker quiet(list_);
    const int selected = std::clamp(current(), 0, std::max(0, static_cast<int>(segments.size()) - 1));
    while (list_->count() > static_cast<int>(segments.size())) delete list_->takeItem(list_->count() - 1);
    while (list_->count() < static_cast<int>(segments.size())) list_->addItem(QString());
    for (std::size_t i = 0; i < segments.size(); ++i) {
        QString text = QStringLiteral("%1   %2").arg(i + 1).arg(segment_sentence(segments[i]));
        if (!segments[i].note.empty()) text += QStringLiteral("\n      ") + qs(segments[i].note);
        QListWidgetItem* item = list_->item(static_cast<int>(i));
        if (item->text() != text) item->setText(text);
    }
    list_->setCurrentRow(segments.empty() ? -1 : selected);
    select(segments.empty() ? -1 : selected);
}

void HowMoves::select(int segment) {
    form_->setVisible(segment >= 0);
    if (segment >= 0) form_->set_places({QStringLiteral("/cycle/segments/%1").arg(segment)});
    plot_->mark_segment(segment);
    laws_->show_segment(segment);
    const Trace* trace = nullptr;
    if (segment >= 0)
        trace = std::get_if<Trace>(&document_.axis().cycle.segments[static_cast<std::size_t>(segment)].what);
    trace_note_->setVisible(trace && trace->samples.rows() >= 4);
    if (!trace_note_->isHidden()) {
        const bool rotary = motion_of(document_.axis().mechanism).rotary;
        const Kind kind = motion_kind(trace->of == TraceOf::position ? Order::position : Order::speed, rotary);
        trace_note_->setText(
            tr("Smoothed over %1 samples; what that took away is %2 RMS. The plot shows the samples as "
               "dots. A wider window takes more noise and rounds corners.")
                .arg(2 * half_window(*trace) + 1)
                .arg(qs(
                    format_quantity(removed_noise(*trace, smooth(*trace)), kind, document_.machine().unit_system, 3))));
    }
}

void HowMoves::say(const QString& text) {
    said_->setText(text);
    said_->setVisible(!text.isEmpty());
}

void HowMoves::import_trace(const QString& file) {
    const QFileInfo about(file);
    if (about.size() > static_cast<qint64>(largest_trace_file)) {
        say(tr("%1 has %2 MB; allowed are at most %3 MB")
                .arg(about.fileName())
                .arg(about.size() >> 20)
                .arg(largest_trace_file >> 20));
        return;
    }
    QFile f(file);
    if (!f.open(QIODevice::ReadOnly)) return say(tr("%1 cannot be read: %2").arg(about.fileName(), f.errorString()));
    const QByteArray text = f.readAll();
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
        tr("trace %1").arg(about.fileName()), [at, &s](auto& list) { list.insert(list.begin() + at, s); }, at);
    say(notes.isEmpty() ? QString() : tr("%1: %2").arg(about.fileName(), notes.join(QStringLiteral("; "))));
}

void HowMoves::export_motion(QString file) {
    const Assessment& a = document_.assessment();
    if (!a.motion) return say(tr("There is no motion to export yet; the ledger lists what is missing."));
    if (QFileInfo(file).suffix().isEmpty()) file += QStringLiteral(".csv");
    const std::string text =
        motion_csv(*a.motion, motion_of(document_.axis().mechanism), a.demand ? &*a.demand : nullptr, 0.001);
    QSaveFile f(file);
    const bool good = f.open(QIODevice::WriteOnly) &&
                      f.write(text.data(), static_cast<qint64>(text.size())) == static_cast<qint64>(text.size()) &&
                      f.commit();
    say(good ? QString() : tr("%1 cannot be written: %2").arg(file, f.errorString()));
}

void HowMoves::edit_segments(
    const QString& name, const std::function<void(std::vector<Segment>&)>& change, int then_select) {
    document_.edit(
        name, [&](Machine& m) { change(m.axes[static_cast<std::size_t>(document_.axis_index())].cycle.segments); });
    list_->setCurrentRow(then_select);
}

bool HowMoves::go_to(const QString& path) {
    const QString base = document_.axis_path() + QStringLiteral("/cycle/segments");
    if (!path.startsWith(base)) return false;
    const int segment = path.mid(base.size() + 1).section(QLatin1Char('/'), 0, 0).toInt();
    if (segment < list_->count()) list_->setCurrentRow(segment);
    if (!Page::go_to(path)) list_->setFocus();
    return true;
}

} // namespace fulmox::app
