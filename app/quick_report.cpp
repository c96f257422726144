#include "app/quick_report.h"

#include "app/plots/cycle_plot.h"
#include "app/plots/speed_torque_plot.h"
#include "app/plots/torque_plot.h"
#include "app/schematic/schematic.h"
#include "app/sentence.h"
#include "app/shipped_motors.h"
#include "app/storage.h"
#include "app/theme.h"
#include "app/words.h"

#include <QAbstractTextDocumentLayout>
#include <QApplication>
#include <QBuffer>
#include <QDate>
#include <QFileInfo>
#include <QGuiApplication>
#include <QPainter>
#include <QPdfWriter>
#include <QScreen>
#include <QTextDocument>
#include <QTextOption>
#include <QUrl>
#include <algorithm>

namespace fulmox::app {

namespace {

QString today() { return QDate::currentDate().toString(Qt::ISODate); }

constexpr double sharpness = 3; // pixels of a picture to a point on paper

QImage plot_picture(Live<Plot>& plot, QSize size, std::size_t segments) {
    plot.resize(size);
    plot.replot(QCustomPlot::rpImmediateRefresh); // lays out, so that words have their room
    plot.refresh();
    plot.restyle();
    plot.setBackground(Qt::white);
    plot.setNotAntialiasedElements(QCP::aeFills); // seconds over a cycle of hundreds of segments, and not seen so fine
    // hundreds of spikes are a surface of one colour, and cost seconds at the sharpness of a few curves
    return plot.toPixmap(size.width(), size.height(), segments > 60 ? 1 : sharpness).toImage();
}

QImage picture_of(Document& document, const std::string& key) {
    const QSize wide(760, 330);
    const std::size_t segments = document.axis().cycle.segments.size();
    if (key == "schematic") {
        Schematic schematic(document);
        schematic.resize(760, 250);
        QImage image(schematic.size() * sharpness, QImage::Format_RGB32);
        image.setDevicePixelRatio(sharpness);
        image.fill(Qt::white);
        QPainter painter(&image);
        schematic.render(&painter, {}, {}, QWidget::RenderFlags());
        return image;
    }
    if (key == "cycle") {
        CyclePlot plot(document);
        return plot_picture(plot, {760, 420}, segments);
    }
    if (key == "torque") {
        TorquePlot plot(document);
        return plot_picture(plot, wide, segments);
    }
    SpeedTorquePlot plot(document);
    return plot_picture(plot, wide, segments);
}

QString html_of(const ReportSection& s, bool first) {
    QString out = first ? QStringLiteral("<h1>%1</h1>").arg(qs(escape_html(s.title)))
                        : QStringLiteral("<p>&nbsp;</p><h2%2>%1</h2>")
                              // the sheet before it is the summary
                              .arg(qs(escape_html(s.title)),
                                  s.key == "motion" ? QStringLiteral(" style='page-break-before:always'") : QString());
    for (const std::string& words : s.words) out += QStringLiteral("<p>%1</p>").arg(qs(escape_html(words)));
    if (!s.picture.empty()) out += QStringLiteral("<p><img src=\"picture:%1\" width=\"page\"></p>").arg(qs(s.picture));
    if (s.table.empty()) return out;
    Table table = s.table;
    for (auto& row : table.rows)
        for (std::string& cell : row)
            if (s.key == "workings") cell = breakable(qs(cell)).toStdString();
    out += qs(to_html(table));
    return out;
}

QString html_of(const std::vector<ReportSection>& sections) {
    QString html;
    for (const ReportSection& s : sections) html += html_of(s, &s == &sections.front());
    return html;
}

} // namespace

std::vector<ReportSection> report_of(Document& document) {
    ReportFacts facts;
    facts.date = today().toStdString();
    facts.file = QFileInfo(document.file()).fileName().toStdString();
    facts.file_version = project_version;
    facts.version = FULMOX_VERSION;
    facts.summary = axis_sentence(document).toStdString();
    const std::string head = document.axis_path().toStdString() + "/motor";
    facts.standing = [&document, head](const std::string& path, const std::string& text) -> std::string {
        const bool listed =
            path.starts_with(head + "/") && as_in_catalogue(document.axis().motor, path.substr(head.size()), text);
        return listed ? "catalogue" : "";
    };
    return axis_report(
        document.machine(), static_cast<std::size_t>(document.axis_index()), document.assessment(), facts);
}

int paint_report(Document& document, QPagedPaintDevice& paper) {
    const OnPaper light;
    const std::vector<ReportSection> sections = report_of(document);
    QTextDocument text;
    text.setUndoRedoEnabled(false);
    text.documentLayout()->setPaintDevice(&paper);
    QFont font = type_face(12);
    font.setPointSizeF(8);
    text.setDefaultFont(font);
    QTextOption wraps = text.defaultTextOption();
    wraps.setWrapMode(QTextOption::WrapAtWordBoundaryOrAnywhere); // a name of ten thousand letters stays on its sheet
    text.setDefaultTextOption(wraps);
    text.setDefaultStyleSheet(QStringLiteral("h1 { font-size: 15pt; } h2 { font-size: 10.5pt; margin-top: 14px; } "
                                             "p { margin: 2px 0; } th { color: #56646c; font-weight: 500; }"));
    QPainter painter(&paper);
    if (!painter.isActive()) return 0;
    const QRectF sheet(0, 0, painter.viewport().width(), painter.viewport().height());
    const double dot = paper.logicalDpiY() / 72.0; // a point
    const double head = 20 * dot, foot = 16 * dot;
    const QRectF body = sheet.adjusted(0, head, 0, -foot);
    text.setPageSize(body.size());
    text.setDocumentMargin(0);
    for (const ReportSection& s : sections) {
        if (!s.picture.empty()) {
            QImage image =
                picture_of(document, s.picture)
                    .scaledToWidth(static_cast<int>(std::min(body.width(), 2400.0)), Qt::SmoothTransformation);
            image.setDevicePixelRatio(1);
            text.addResource(QTextDocument::ImageResource, QUrl(QStringLiteral("picture:") + qs(s.picture)), image);
        }
    }
    QString html = html_of(sections);
    // sizes in HTML are pixels of the screen, which the document turns into dots of the paper
    const double pixels = body.width() * QGuiApplication::primaryScreen()->logicalDotsPerInchX() / paper.logicalDpiX();
    html.replace(QLatin1String("width=\"page\""), QStringLiteral("width=\"%1\"").arg(static_cast<int>(pixels)));
    text.setHtml(html);
    const int pages = text.pageCount();
    const QString name = qs(document.axis().name), project = qs(document.machine().name);
    for (int page = 0; page < pages; ++page) {
        if (page > 0 && !paper.newPage()) return 0;
        painter.save();
        painter.setFont(font);
        painter.setPen(theme().second);
        const QFontMetricsF metrics(font, &paper);
        const double half = sheet.width() / 2 - 10 * dot;
        painter.drawText(QRectF(0, 0, half, head), Qt::AlignLeft | Qt::AlignTop,
            metrics.elidedText(project + QStringLiteral(" · ") + name, Qt::ElideRight, half));
        painter.drawText(QRectF(half, 0, sheet.width() - half, head), Qt::AlignRight | Qt::AlignTop, today());
        painter.drawText(QRectF(0, sheet.height() - foot, sheet.width(), foot), Qt::AlignRight | Qt::AlignBottom,
            QObject::tr("page %1 of %2").arg(page + 1).arg(pages));
        painter.translate(0, head - page * body.height());
        QAbstractTextDocumentLayout::PaintContext context;
        context.clip = QRectF(0, page * body.height(), body.width(), body.height());
        context.palette.setColor(QPalette::Text, theme().ink);
        painter.setClipRect(context.clip);
        text.documentLayout()->draw(&painter, context);
        painter.restore();
    }
    return pages;
}

QString report_html(Document& document) { return html_of(report_of(document)); }

QString write_report(Document& document, const QString& file) {
    if (!document.has_axis()) return QObject::tr("there is no axis to report on");
    if (document.assessment().pending) return QObject::tr("the axis is still being assessed; try again in a moment");
    QByteArray bytes;
    QBuffer out(&bytes);
    out.open(QIODevice::WriteOnly);
    {
        QPdfWriter pdf(&out);
        pdf.setPageSize(QPageSize(QPageSize::A4));
        pdf.setPageMargins({16, 14, 16, 12}, QPageLayout::Millimeter);
        pdf.setResolution(300);
        pdf.setTitle(qs(document.axis().name));
        pdf.setCreator(QStringLiteral("Fulmox " FULMOX_VERSION));
        if (paint_report(document, pdf) == 0) return QObject::tr("%1 could not be drawn").arg(file);
    }
    out.close();
    return write_atomically(file, bytes);
}

QString write_report_of(
    Result<ProjectRead, QString> project, const QString& project_file, const QString& axis, const QString& file) {
    if (!project) return project.error();
    Document document;
    document.open(std::move(*project), project_file);
    bool number = false;
    const int index = axis.toInt(&number), axes = static_cast<int>(document.machine().axes.size());
    if (!number || index < 1 || index > axes)
        return QObject::tr("axis %1: the project has axes 1 to %2").arg(axis).arg(axes);
    document.select_axis(index - 1);
    while (document.assessment().pending) QApplication::processEvents(QEventLoop::WaitForMoreEvents);
    return write_report(document, file);
}

} // namespace fulmox::app
