#include "app/widgets/figures.h"

#include "app/theme.h"
#include "app/words.h"
#include "core/quantity/format.h"
#include "core/report/axis_report.h"

#include <QGridLayout>
#include <QHBoxLayout>
#include <QVBoxLayout>
#include <cmath>

namespace fulmox::app {

namespace {

const Figure* find_figure(Document& d, const QString& key) {
    return d.has_axis() ? d.assessment().figure(key.toStdString()) : nullptr;
}

// "A 1.4 N·m, now 12 % less"; empty without a pin or where nothing changed.
QString beside_a(Document& d, const Figure& now) {
    const Assessment* a = d.pinned_assessment();
    const Figure* was = a ? a->figure(now.key) : nullptr;
    if (!was || std::isnan(was->si) || std::isnan(now.si) || was->si == now.si) return {};
    QString text = QObject::tr("A %1").arg(qs(figure_text(*was, d.machine().unit_system)));
    if (was->si != 0 && (was->si > 0) == (now.si > 0)) {
        const double change = 100 * (now.si / was->si - 1);
        text +=
            QObject::tr(", now %1 %")
                .arg((change > 0 ? QStringLiteral("+") : QStringLiteral("−")) + qs(format_number(std::abs(change), 2)));
    }
    return text;
}

void show_text(QLabel* label, const QString& text) {
    if (label->text() != text) label->setText(text);
}

} // namespace

QString working_html(const Working& working) {
    QString s;
    for (const WorkingLine& w : working)
        s += QStringLiteral("<p style='white-space:pre-wrap;margin:0 0 4px 0'>%1 = %2<br>= %3<br>= <b>%4</b>%5</p>")
                 .arg(qs(w.symbol).toHtmlEscaped(), qs(w.formula).toHtmlEscaped(), qs(w.substituted).toHtmlEscaped(),
                     qs(format_quantity(w.result, si_unit(w.kind), 5)).toHtmlEscaped(),
                     w.source.empty() ? QString() : QStringLiteral("<br><i>%1</i>").arg(qs(w.source).toHtmlEscaped()));
    return s;
}

namespace {

QString not_known(Document& d, const QString& why) {
    return d.has_axis() && d.assessment().pending ? QCoreApplication::translate("Figures", "being calculated…") : why;
}

QString read_html(const Figure& f) {
    return f.read_from.empty()
               ? QString()
               : QStringLiteral("<p>%1</p>")
                     .arg(QCoreApplication::translate("Figures", "read from %1").arg(qs(f.read_from)).toHtmlEscaped());
}

} // namespace

namespace {

template <class Parts> Table table_of_parts(Document& d, const Parts& parts) {
    if (!d.has_axis()) return {};
    std::vector<std::string> keys;
    for (const auto& each : parts) keys.push_back(each.key.toStdString());
    return figures_table(d.assessment(), d.machine().unit_system, keys);
}

} // namespace

Table FigureTiles::as_table() const { return table_of_parts(document_, tiles_); }
Table FigureList::as_table() const { return table_of_parts(document_, lines_); }

FigureTiles::FigureTiles(Document& document, const std::vector<std::pair<QString, QString>>& keys, QWidget* parent)
    : QWidget(parent), document_(document) {
    auto* line = new QHBoxLayout(this);
    line->setContentsMargins(0, 0, 0, 0);
    line->setSpacing(8);
    for (const auto& [key, unknown] : keys) {
        Tile t;
        t.key = key;
        t.unknown = unknown;
        t.frame = new QFrame;
        t.frame->setObjectName(QStringLiteral("card"));
        auto* box = new QVBoxLayout(t.frame);
        box->setContentsMargins(12, 8, 10, 8);
        box->setSpacing(1);
        t.label = new QLabel;
        t.label->setObjectName(QStringLiteral("second"));
        t.label->setFont(type_face(12));
        t.value = new QLabel;
        t.value->setFont(type_face(17, Weight::strong));
        t.value->setTextInteractionFlags(Qt::TextSelectableByMouse);
        t.value->setContextMenuPolicy(Qt::NoContextMenu); // that of the window copies the figures
        t.note = new QLabel;
        t.note->setObjectName(QStringLiteral("second"));
        t.note->setFont(type_face(11));
        t.note->setWordWrap(true);
        for (QLabel* l : {t.label, t.value, t.note}) {
            l->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
            box->addWidget(l);
        }
        box->addStretch(1);
        line->addWidget(t.frame, 1);
        tiles_.push_back(t);
    }
    connect(&document_, &Document::changed, this, [this] {
        if (isVisible()) refresh();
    });
    refresh();
}

void FigureTiles::refresh() {
    for (const Tile& t : tiles_) {
        const Figure* f = find_figure(document_, t.key);
        show_text(t.label, f ? qs(f->label) : t.unknown);
        show_text(t.value, f ? qs(figure_text(*f, document_.machine().unit_system)) : QStringLiteral("–"));
        const QString a = f ? beside_a(document_, *f) : QString();
        show_text(t.note, !a.isEmpty() ? a
                          : f          ? qs(f->note.in(document_.machine().unit_system))
                                       : not_known(document_, tr("not known yet")));
        t.frame->setToolTip(f ? working_html(f->working) + read_html(*f) : QString());
    }
}

FigureList::FigureList(Document& document, QStringList keys, int columns, bool alone, QWidget* parent)
    : QWidget(parent), document_(document) {
    auto* grid = new QGridLayout(this);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setHorizontalSpacing(10);
    grid->setVerticalSpacing(3);
    const int rows = (static_cast<int>(keys.size()) + columns - 1) / columns;
    int place = 0;
    for (const QString& key : keys) {
        const int row = place % rows;
        const int column = 3 * (place / rows);
        Line l{key, new QLabel, new QLabel};
        l.label->setObjectName(QStringLiteral("second"));
        l.value->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
        l.value->setTextInteractionFlags(Qt::TextSelectableByMouse);
        l.value->setContextMenuPolicy(Qt::NoContextMenu);
        grid->addWidget(l.label, row, column);
        grid->addWidget(l.value, row, column + 1);
        if (column > 0) grid->setColumnMinimumWidth(column - 1, 12);
        grid->setColumnStretch(column, 1);
        lines_.push_back(l);
        ++place;
    }
    if (alone) {
        nothing_ = new QLabel(tr("Nothing yet; the ledger lists what is missing."));
        nothing_->setObjectName(QStringLiteral("second"));
        nothing_->setWordWrap(true);
        grid->addWidget(nothing_, rows, 0, 1, 3 * columns - 1);
    }
    connect(&document_, &Document::changed, this, [this] {
        if (isVisible()) refresh();
    });
    refresh();
}

void FigureList::refresh() {
    bool nothing = true;
    for (const Line& l : lines_) {
        const Figure* f = find_figure(document_, l.key);
        nothing = nothing && (!f || f->waits);
    }
    for (const Line& l : lines_) {
        const Figure* f = find_figure(document_, l.key);
        if (nothing && nothing_) f = nullptr; // one sentence in place of a column of dashes
        l.label->setVisible(f);
        l.value->setVisible(f);
        if (!f) continue;
        show_text(l.label, qs(f->label));
        const QString a = beside_a(document_, *f);
        const QString value = qs(figure_text(*f, document_.machine().unit_system));
        show_text(l.value, a.isEmpty() ? value : value + QStringLiteral("   ") + a.section(QLatin1Char(','), 0, 0));
        const QString tip =
            (a.isEmpty() ? QString() : QStringLiteral("<p>%1</p>").arg(a.toHtmlEscaped())) +
            (f->note.empty() ? QString()
                             : QStringLiteral("<p>%1</p>")
                                   .arg(qs(f->note.in(document_.machine().unit_system)).toHtmlEscaped())) +
            working_html(f->working) + read_html(*f);
        l.label->setToolTip(tip);
        l.value->setToolTip(tip);
    }
    if (!nothing_) return;
    nothing_->setVisible(nothing);
    QString why;
    for (const Line& l : lines_)
        if (const Figure* f = find_figure(document_, l.key); f && f->waits && why.isEmpty())
            why = qs(f->note.in(document_.machine().unit_system));
    show_text(
        nothing_, why.isEmpty() ? not_known(document_, tr("Nothing yet; the ledger lists what is missing.")) : why);
}

} // namespace fulmox::app
