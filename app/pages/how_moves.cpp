#include "app/pages/how_moves.h"

#include "app/widgets/paint.h"
#include "core/quantity/format.h"

#include <QFrame>
#include <QHBoxLayout>
#include <QPushButton>
#include <QVBoxLayout>

namespace fulmox::app {

namespace {

QString qs(const std::string& s) { return QString::fromStdString(s); }
QString or_question(const QuantityBase& q) { return q.given() ? qs(q.text) : QStringLiteral("?"); }

} // namespace

QString segment_sentence(const Segment& s) {
    QString text;
    if (const auto* m = std::get_if<MoveInTime>(&s.what))
        text = QObject::tr("move %1 in %2").arg(or_question(m->distance), or_question(m->duration));
    if (const auto* m = std::get_if<MoveByLimits>(&s.what))
        text = QObject::tr("move %1 at up to %2").arg(or_question(m->distance), or_question(m->speed));
    if (const auto* m = std::get_if<Dwell>(&s.what))
        text = QObject::tr("dwell %1").arg(or_question(m->duration)) +
               (m->brake_holds ? QObject::tr(", brake holds") : QString());
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
    list_->setFixedHeight(161);
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
    form_ = new Form(document, {QStringLiteral("/cycle/segments/0")});
    forms_.push_back(form_);

    auto* more = new QFrame;
    QVBoxLayout* more_box = make_card(more, tr("What it comes to"));
    more_box->addWidget(new FigureList(document,
        {QStringLiteral("motion.cycle_time"), QStringLiteral("motion.cycles_per_hour"), QStringLiteral("motion.duty"),
            QStringLiteral("motion.stroke"), QStringLiteral("motion.peak_speed"),
            QStringLiteral("motion.peak_acceleration"), QStringLiteral("demand.peak_speed")}));

    auto* right = new QWidget;
    auto* column = new QVBoxLayout(right);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(10);
    auto* card = new QFrame;
    QVBoxLayout* box = make_card(card, tr("The cycle"));
    plot_ = new CyclePlot(document);
    box->addWidget(plot_, 1);
    column->addWidget(card, 1);
    connect(list_, &QListWidget::currentRowChanged, this, &HowMoves::select);
    connect(plot_, &CyclePlot::segment_clicked, list_, qOverload<int>(&QListWidget::setCurrentRow));
    connect(&document, &Document::changed, this, [this] {
        if (isVisible()) refresh_list();
    });
    lay_out({cards, form_, more}, right);
    refresh_list();
}

QString HowMoves::sentence() const {
    const Assessment& a = document_.assessment();
    if (!a.motion)
        return tr(
            "The cycle is the list of segments; it repeats for ever. Give each move a distance and a time, or limits.");
    const UnitSystem system = document_.machine().unit_system;
    return tr("%1 segments in %2, up to %3 and %4")
        .arg(document_.axis().cycle.segments.size())
        .arg(qs(format_quantity(a.motion->duration, Kind::time, system)),
            qs(format_quantity(a.motion->peak_speed, Kind::speed, system)),
            qs(format_quantity(a.motion->peak_acceleration, Kind::acceleration, system)));
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
