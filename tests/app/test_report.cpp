// What can be taken away: the report on paper, tables and pictures on the clipboard.
#include "app/clip.h"
#include "app/forms/segment_table.h"
#include "app/plots/plot.h"
#include "app/quick_report.h"
#include "core/report/json_report.h"
#include "tests/app/window.h"

#include <QClipboard>
#include <QElapsedTimer>
#include <QMimeData>
#include <QProcess>
#include <QTextDocument>
#include <QTextTable>
#include <nlohmann/json.hpp>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

// The words of a PDF in reading order, blanks made one; nothing where it cannot be read.
QString words_of(const QString& pdf) {
    QProcess reader;
    reader.start(QStringLiteral("pdftotext"), {QStringLiteral("-raw"), pdf, QStringLiteral("-")});
    REQUIRE(reader.waitForFinished());
    REQUIRE(reader.exitCode() == 0);
    return QString::fromUtf8(reader.readAllStandardOutput()).simplified();
}

int pages_of(const QString& pdf) {
    QProcess reader;
    reader.start(QStringLiteral("pdfinfo"), {pdf});
    REQUIRE(reader.waitForFinished());
    const QString out = QString::fromUtf8(reader.readAllStandardOutput());
    return out.section(QStringLiteral("Pages:"), 1).section(QLatin1Char('\n'), 0, 0).trimmed().toInt();
}

// Blanks apart, since a cell may be broken over lines.
QString close_up(QString s) { return s.remove(QLatin1Char(' ')).remove(QChar(0xA0)); }

std::vector<std::vector<std::string>> read_tsv(const QString& text) {
    std::vector<std::vector<std::string>> rows;
    for (const QString& line : text.split(QLatin1Char('\n'), Qt::SkipEmptyParts)) {
        rows.emplace_back();
        for (const QString& cell : line.split(QLatin1Char('\t'))) rows.back().push_back(cell.toStdString());
    }
    return rows;
}

} // namespace

TEST_CASE("the report of every axis of the demo is whole, on every page, within two seconds") {
    Window w;
    for (int axis = 0; axis < static_cast<int>(w.document().machine().axes.size()); ++axis) {
        w.document().select_axis(axis);
        const QString file = w.folder.filePath(QStringLiteral("report%1.pdf").arg(axis));
        QElapsedTimer timer;
        timer.start();
        REQUIRE(w.window.save_report(file));
        CHECK(timer.elapsed() < hanging); // against hanging
        const int pages = pages_of(file);
        CHECK(pages >= 3);
        const QString said = close_up(words_of(file));
        const auto has = [&](const std::string& words) {
            INFO(words);
            CHECK(said.contains(close_up(QString::fromStdString(words))));
        };
        const Assessment& a = w.document().assessment();
        has(w.document().machine().name);
        has(w.document().axis().name);
        has("format version " + std::to_string(project_version));
        has(std::string("Fulmox ") + FULMOX_VERSION);
        for (int page = 1; page <= pages; ++page) has("page " + std::to_string(page) + " of " + std::to_string(pages));
        for (const Limit& l : a.limits) {
            has(l.label);
            has(state_words(l.state));
        }
        for (const Figure& f : a.figures) {
            has(f.label);
            has(figure_text(f, w.document().machine().unit_system));
        }
        // the same numbers as those for scripts
        std::vector<Assessment> all;
        for (int i = 0; i < static_cast<int>(w.document().machine().axes.size()); ++i)
            all.push_back(w.document().assessment(i));
        const auto json = nlohmann::json::parse(assessment_json(w.document().machine(), all));
        int numbers = 0;
        for (const auto& [key, f] : json.at("axes").at(static_cast<std::size_t>(axis)).at("results").items()) {
            if (f.at("value").is_null()) continue;
            const Figure* same = a.figure(key);
            REQUIRE(same);
            Figure read = *same;
            read.si = f.at("value").get<double>();
            has(figure_text(read, w.document().machine().unit_system));
            ++numbers;
        }
        CHECK(numbers > 20);
        for (const Problem& p : a.problems) has(p.field);
        for (const char* title : {"Limits", "Cautions", "Motion", "Figures", "Inputs", "Assumptions", "Workings"})
            has(title);
    }
}

TEST_CASE("a report that cannot be written says so and leaves nothing behind") {
    Window w;
    const QString nowhere = w.folder.filePath(QStringLiteral("no/such/folder/report.pdf"));
    CHECK(!w.window.save_report(nowhere));
    CHECK(w.window.message().contains(QStringLiteral("No report was written")));
    CHECK(!w.window.save_report(QStringLiteral("/dev/full/report.pdf")));
    CHECK(w.window.message().contains(QStringLiteral("No report was written")));
    CHECK(w.document().machine().axes.size() == 11);
}

TEST_CASE("a report of names with markup and of ten thousand letters keeps to its sheets") {
    Window w;
    w.document().edit(QStringLiteral("name"), [](Machine& m) {
        m.name = "<b>bold & brave</b>";
        m.axes[0].name = std::string(10000, 'M');
        m.axes[0].load.payload.note = "<img src=x>" + std::string(3000, 'n');
    });
    const QString file = w.folder.filePath(QStringLiteral("long.pdf"));
    REQUIRE(w.window.save_report(file));
    const QString said = close_up(words_of(file));
    CHECK(said.contains(QStringLiteral("<b>bold&brave</b>")));
    CHECK(said.count(QLatin1Char('M')) > 10000);
    CHECK(said.contains(QStringLiteral("<imgsrc=x>")));
    CHECK(pages_of(file) < 40);
}

TEST_CASE("the report of an axis that waits says for what, and without an axis there is none") {
    Window w;
    w.document().edit(QStringLiteral("empty"),
        [](Machine& m) { std::get<MoveInTime>(m.axes[0].cycle.segments[0].what).distance = {}; });
    const QString file = w.folder.filePath(QStringLiteral("waits.pdf"));
    REQUIRE(w.window.save_report(file));
    const QString said = close_up(words_of(file));
    CHECK(said.contains(close_up(QStringLiteral("waits for: Distance, segment 1"))));
    CHECK(said.contains(close_up(QStringLiteral("To be given or put right"))));
    w.document().edit(QStringLiteral("none"), [](Machine& m) { m.axes.clear(); });
    CHECK(!w.window.save_report(file));
    CHECK(w.window.message().contains(QStringLiteral("no axis")));
}

TEST_CASE("printing without a printer offers the PDF") {
    if (!qEnvironmentVariableIsEmpty("CUPS_SERVER")) return;
    Window w;
    w.window.print_report();
    CHECK(w.window.message().contains(QStringLiteral("No printer")));
}

TEST_CASE("a report in the dark is on white paper") {
    Window w;
    w.window.set_dark(true);
    REQUIRE(w.window.save_report(w.folder.filePath(QStringLiteral("dark.pdf"))));
    CHECK(theme().dark);
    {
        const OnPaper light;
        CHECK(!theme().dark);
    }
    w.window.set_dark(false);
}

TEST_CASE("every table of the report can be copied, as text and as HTML") {
    Window w;
    int copied = 0;
    for (const ReportSection& s : report_of(w.document())) {
        if (s.table.empty()) continue;
        copy_table(s.table);
        const QMimeData* held = QGuiApplication::clipboard()->mimeData();
        auto rows = read_tsv(held->text());
        auto want = s.table.rows;
        if (!s.table.head.empty()) want.insert(want.begin(), s.table.head);
        for (auto& row : want)
            for (std::string& cell : row) std::replace(cell.begin(), cell.end(), '\n', ' ');
        for (std::size_t i = 0; i < want.size(); ++i)
            want[i].resize(std::max(want[i].size(), i < rows.size() ? rows[i].size() : 0));
        CHECK(rows == want);
        QTextDocument html;
        html.setHtml(held->html());
        const auto* table = html.rootFrame()->childFrames().empty()
                                ? nullptr
                                : qobject_cast<QTextTable*>(html.rootFrame()->childFrames().front());
        REQUIRE(table);
        CHECK(table->rows() == static_cast<int>(want.size()));
        CHECK(table->cellAt(table->rows() - 1, 0).firstCursorPosition().block().text().toStdString() ==
              want.back().front());
        ++copied;
    }
    CHECK(copied >= 8);
}

TEST_CASE("Ctrl+C copies what has the focus, and else the figures") {
    Window w;
    auto* row = w.child<LimitRow>("limit/peak_torque");
    row->setFocus();
    QTest::keyClick(row, Qt::Key_C, Qt::ControlModifier);
    QString text = QGuiApplication::clipboard()->text();
    CHECK(text.contains(QStringLiteral("Peak torque on curve")));
    CHECK(text.contains(QString::fromStdString(w.limit("peak_torque").working.front().formula)));
    CHECK(QGuiApplication::clipboard()->mimeData()->hasImage());

    w.window.show_page(1);
    auto* segments = w.window.findChild<SegmentTable*>();
    REQUIRE(segments);
    segments->setFocus();
    QTest::keyClick(segments, Qt::Key_C, Qt::ControlModifier);
    text = QGuiApplication::clipboard()->text();
    CHECK(read_tsv(text).size() == 1 + w.document().axis().cycle.segments.size());

    w.child<QPushButton>("page/1")->setFocus();
    QTest::keyClick(w.child<QPushButton>("page/1"), Qt::Key_C, Qt::ControlModifier);
    text = QGuiApplication::clipboard()->text();
    for (const Figure& f : w.document().assessment().figures) CHECK(text.contains(QString::fromStdString(f.label)));
    CHECK(w.child<QLabel>("done")->text().contains(QStringLiteral("Copied")));
    CHECK(w.window.message().isEmpty()); // what waits for an answer would have kept its place
}

TEST_CASE("a plot is copied as numbers and as a picture at once") {
    Window w;
    w.window.show_page(2);
    w.settle();
    for (Plot* plot : w.window.findChildren<Plot*>()) {
        if (!plot->isVisible()) continue;
        copy_part(*plot);
        const QMimeData* held = QGuiApplication::clipboard()->mimeData();
        CHECK(held->hasImage());
        const auto rows = read_tsv(held->text());
        REQUIRE(rows.size() > 10);
        CHECK(rows.front().size() == rows.back().size());
        bool number = false;
        QString::fromStdString(rows.back().front()).toDouble(&number);
        CHECK(number);
    }
}

TEST_CASE("a report of five hundred segments is written while one waits") {
    Window w;
    w.document().edit(QStringLiteral("many"), [](Machine& m) {
        auto& segments = m.axes[0].cycle.segments;
        const auto once = segments;
        while (segments.size() < 500) segments.insert(segments.end(), once.begin(), once.end());
    });
    const QString file = w.folder.filePath(QStringLiteral("many.pdf"));
    QElapsedTimer timer;
    timer.start();
    REQUIRE(w.window.save_report(file));
    CHECK(timer.elapsed() < hanging); // against hanging
    CHECK(close_up(words_of(file)).contains(QStringLiteral("segment500")));
}

TEST_CASE("tables pasted into a spreadsheet are read from its file as they were") {
    Window w;
    std::vector<std::vector<std::string>> want;
    QByteArray pasted;
    for (const ReportSection& s : report_of(w.document())) {
        if (s.table.empty()) continue;
        copy_table(s.table);
        pasted += QGuiApplication::clipboard()->text().toUtf8();
        if (!pasted.endsWith('\n')) pasted += '\n';
        if (!s.table.head.empty()) want.push_back(s.table.head);
        for (const auto& row : s.table.rows) want.push_back(row);
    }
    QFile out(w.folder.filePath(QStringLiteral("pasted.tsv")));
    REQUIRE(out.open(QIODevice::WriteOnly));
    out.write(pasted);
    out.close();
    QProcess sheet;
    sheet.start(
        QStringLiteral("/usr/bin/python3"), {QStringLiteral(FULMOX_SOURCE_DIR "/tests/app/paste_into_sheet.py"),
                                                out.fileName(), w.folder.filePath(QStringLiteral("pasted.xlsx"))});
    REQUIRE(sheet.waitForFinished());
    INFO(sheet.readAllStandardError().toStdString());
    REQUIRE(sheet.exitCode() == 0);
    const auto read = nlohmann::json::parse(sheet.readAllStandardOutput().toStdString());
    REQUIRE(read.size() == want.size());
    for (std::size_t r = 0; r < want.size(); ++r)
        for (std::size_t c = 0; c < want[r].size(); ++c) {
            std::string cell = want[r][c];
            std::replace(cell.begin(), cell.end(), '\n', ' ');
            INFO("row " << r << " column " << c);
            CHECK(read.at(r).at(c).get<std::string>() == cell);
        }
}
