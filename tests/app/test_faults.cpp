// What ought to break the window and must not: the files of the cases, projects bent at random, random hands on mouse
// and keys, and programs killed while they save. Counts and seed can be set from outside for the long run, which also
// asks for a note of what was done:
//   FULMOX_MUTATIONS, FULMOX_MONKEY, FULMOX_KILLS, FULMOX_SEED, FULMOX_PATIENCE, FULMOX_RELIABILITY (a file)
#include "app/gcode_dialog.h"
#include "app/import_parts.h"
#include "app/library.h"
#include "app/pages/registry.h"
#include "app/part_shelf.h"
#include "app/parts/motor_table.h"
#include "app/plots/torque_plot.h"
#include "core/files/document.h"
#include "tests/app/own_files.h"
#include "tests/app/window.h"
#include "tests/mechanisms.h"

#include <QAbstractButton>
#include <QDialog>
#include <QDir>
#include <QLabel>
#include <QMenu>
#include <QPointer>
#include <QStackedWidget>
#include <QTimer>
#include <QToolTip>
#include <QWheelEvent>
#include <algorithm>
#include <csignal>
#include <ctime>
#include <functional>
#include <memory>
#include <random>
#include <sys/wait.h>
#include <unistd.h>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

int count_of(const char* name, int otherwise) {
    bool given = false;
    const int n = qEnvironmentVariableIntValue(name, &given);
    return given ? n : otherwise;
}

void note(const QString& what, int done, double longest_ms = 0) {
    const QString file = qEnvironmentVariable("FULMOX_RELIABILITY");
    if (file.isEmpty()) return;
    QFile f(file);
    if (!f.open(QIODevice::Append)) return;
    f.write(QStringLiteral("%1\t%2\t%3\n").arg(what).arg(done).arg(longest_ms, 0, 'f', 0).toUtf8());
}

// ms, far beyond what it takes: it ends what hangs, on a machine with neighbours too. How long things take is measured
// by scripts/bench. FULMOX_PATIENCE where everything is slow.
double within(double ms) { return 20 * ms * count_of("FULMOX_PATIENCE", 1); }

class Chance {
  public:
    explicit Chance(unsigned seed) : engine_(seed) {}
    std::size_t below(std::size_t n) { return n == 0 ? 0 : engine_() % n; }
    template <class T> const T& of(const std::vector<T>& list) { return list.at(below(list.size())); }

  private:
    std::mt19937 engine_;
};

/// Shows every page; returns the longest that one of them took of the window's own time, ms.
double look_at_all(Window& w) {
    double longest = 0;
    w.assessed();
    for (int page = 0; page < static_cast<int>(page_registry().size()); ++page) {
        const OwnTime since;
        w.window.show_page(page);
        QApplication::processEvents();
        longest = std::max(longest, since.elapsed());
    }
    // no event loop comes round here, and what was put away would pile up in the window
    QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
    return longest;
}

const std::vector<Json>& bad_values() {
    static const std::vector<Json> values{"", "0", "-1", "1e99 mm", "1e-310 V", "nan", "inf", "99999999999999",
        "<b>bold</b>", "<img src='/dev/zero'>", "12.5 %", true, false, nullptr, 5, -1e300, "10 mm", "1e6 rpm", "1e-9 s",
        "1e9 s", "1 kg", "-360 deg", "1e4", "10 mm ± 5 mm", "2*(3+4) N", std::string(20000, 'x'),
        "\U0001F600 \u202e \u0301", "\n\t", Json::array(), Json::object(), Json::array({1, 2, 3})};
    return values;
}

void leaves(const Json& j, const std::string& pointer, std::vector<std::string>& out) {
    if (!j.is_structured()) return out.push_back(pointer);
    std::size_t i = 0;
    for (const auto& [key, value] : j.items())
        leaves(value, j.is_array() ? pointer + "/" + std::to_string(i++) : child_pointer(pointer, key), out);
}

// A project with some of its values replaced, taken out, doubled or exchanged.
std::string bent(const Json& project, Chance& chance) {
    Json j = project;
    for (std::size_t n = 1 + chance.below(4); n > 0; --n) {
        std::vector<std::string> places;
        leaves(j, "", places);
        if (places.empty()) break;
        const Json::json_pointer at(chance.of(places)), other(chance.of(places));
        switch (chance.below(6)) {
        case 0:
        case 1:
            j[at] = chance.of(bad_values());
            break;
        case 2: {
            Json& parent = j[at.parent_pointer()];
            if (parent.is_object()) parent.erase(at.back());
            break;
        }
        case 3: { // an entry of the list it stands in, some times more
            Json::json_pointer p = at;
            while (!p.empty() && !j[p.parent_pointer()].is_array()) p = p.parent_pointer();
            if (p.empty()) break;
            const Json entry = j[p];
            for (std::size_t k = chance.below(30); k > 0; --k) j[p.parent_pointer()].push_back(entry);
            break;
        }
        case 4:
            std::swap(j[at], j[other]);
            break;
        default: {
            static const std::vector<Json> kinds{"screw", "rack", "belt", "table", "conveyor", "feed_rolls", "winder",
                "hoist", "arm", "slider_crank", "scotch_yoke", "fan", "linear_motor", "free", "dwell", "jog",
                "move_by_limits", "move_in_time", "repeat", "speed_change", "constant_speed", "trace", "planned"};
            const Json::json_pointer kind = at.parent_pointer() / "kind";
            if (j.contains(kind)) j[kind] = chance.of(kinds);
        }
        }
    }
    return j.dump();
}

} // namespace

TEST_CASE("every file of the cases opens on every page") {
    Window w;
    int opened = 0, at = 0;
    const int each = count_of("FULMOX_EACH", 1); // one of so many, where a sanitizer takes its time
    for (const char* folder : {"wrong-numbers", "wrong-numbers-2", "unknown-fits", "faults", "faults-2"}) {
        const QDir dir(QStringLiteral(FULMOX_SOURCE_DIR "/tests/cases/%1").arg(QLatin1String(folder)));
        for (const QString& name : dir.entryList({QStringLiteral("*.fulmox")})) {
            if (at++ % each != 0) continue;
            INFO(name.toStdString());
            if (!w.window.open_file(dir.filePath(name))) { // some are refused
                CHECK(!w.window.message().isEmpty());
                continue;
            }
            // most hold the demo's axes beside their own, which comes first
            const int axes = std::min(2, static_cast<int>(w.document().machine().axes.size()));
            for (int axis = 0; axis < axes; ++axis) {
                w.document().select_axis(axis);
                CHECK(look_at_all(w) < within(5000));
            }
            ++opened;
        }
    }
    CHECK(opened >= 28 / each);
}

TEST_CASE("projects bent at random open on every page") {
    const int wanted = count_of("FULMOX_MUTATIONS", 120);
    const auto seed = static_cast<unsigned>(count_of("FULMOX_SEED", 20261126));
    Window w;
    std::vector<Json> projects;
    for (const Machine& m : {demo(), Machine(w.document().machine())})
        projects.push_back(Json::parse(write_project(m)));
    for (const Option& kind : mechanism_kinds()) projects.push_back(Json::parse(write_project(machine_with(kind.key))));
    const QDir cases(QStringLiteral(FULMOX_SOURCE_DIR "/tests/cases/wrong-numbers"));
    for (const QString& name : cases.entryList({QStringLiteral("*.fulmox")}))
        projects.push_back(Json::parse(bytes_in(cases.filePath(name)).toStdString()));
    double longest = 0;
    int shown = 0;
    for (int i = 0; i < wanted; ++i) {
        Chance chance(seed + static_cast<unsigned>(i));
        INFO("seed " << seed + static_cast<unsigned>(i));
        auto read = read_project(bent(chance.of(projects), chance));
        if (!read) {
            CHECK(!read.error().message.empty());
            continue;
        }
        const std::string written = write_project(read->machine);
        REQUIRE(w.window.open_project({std::move(*read), {}}));
        const double took = look_at_all(w);
        CHECK(took < within(10000));
        REQUIRE(complaints().isEmpty());
        longest = std::max(longest, took);
        ++shown;
        // what is kept is kept as it is
        const auto again = read_project(written);
        REQUIRE(again);
        CHECK(write_project(again->machine) == written);
    }
    CHECK(shown > wanted / 2);
    note(QStringLiteral("projects bent at random, opened on every page"), wanted, longest);
}

TEST_CASE("a rod shorter than its crank, or none at all, is still drawn with numbers") {
    Window w;
    for (const auto& [crank, rod] :
        {std::pair("100 mm", "40 mm"), std::pair("0 mm", "0 mm"), std::pair("-50 mm", "20 mm")}) {
        Machine m = machine_with("slider_crank");
        auto& s = std::get<SliderCrank>(m.axes[0].mechanism);
        s.crank = Quantity<Kind::length>(crank);
        s.rod = Quantity<Kind::length>(rod);
        ProjectRead read;
        read.machine = m;
        REQUIRE(w.window.open_project({std::move(read), {}}));
        look_at_all(w);
        CHECK(complaints().isEmpty());
    }
}

namespace {

// One thing a hand may do to whatever is visible of a window: a click, a drag, the wheel, keys, text. How long it took,
// ms.
double random_event(QWidget* top, Chance& chance) {
    static const std::vector<QString> texts{QStringLiteral("1"), QStringLiteral("12.5 mm"), QStringLiteral("1e99"),
        QStringLiteral("-"), QStringLiteral("3 rpm"), QStringLiteral("<b>x"), QStringLiteral("0.2 s"),
        QStringLiteral("1e6"), QStringLiteral("é½°"), QStringLiteral("2*"), QString(200, QLatin1Char('9'))};
    static const std::vector<int> keys{Qt::Key_Tab, Qt::Key_Backtab, Qt::Key_Return, Qt::Key_Escape, Qt::Key_Delete,
        Qt::Key_Backspace, Qt::Key_Up, Qt::Key_Down, Qt::Key_Left, Qt::Key_Right, Qt::Key_Home, Qt::Key_End,
        Qt::Key_PageUp, Qt::Key_PageDown, Qt::Key_Space, Qt::Key_F2, Qt::Key_1, Qt::Key_5, Qt::Key_Period, Qt::Key_M};
    static const std::vector<int> with_control{Qt::Key_Z, Qt::Key_Y, Qt::Key_A, Qt::Key_C, Qt::Key_V, Qt::Key_X,
        Qt::Key_1, Qt::Key_2, Qt::Key_3, Qt::Key_4, Qt::Key_B, Qt::Key_D, Qt::Key_K, Qt::Key_M, Qt::Key_P, Qt::Key_R,
        Qt::Key_N, Qt::Key_S};
    std::vector<QWidget*> there;
    for (QWidget* each : top->findChildren<QWidget*>())
        if (each->isVisible() && each->isEnabled() && !each->visibleRegion().isEmpty()) there.push_back(each);
    if (there.empty()) there.push_back(top);
    QWidget* on = chance.of(there);
    const QRect seen = on->visibleRegion().boundingRect();
    const QPoint at =
        seen.topLeft() + QPoint(static_cast<int>(chance.below(static_cast<std::size_t>(std::max(1, seen.width())))),
                             static_cast<int>(chance.below(static_cast<std::size_t>(std::max(1, seen.height())))));
    QElapsedTimer since;
    since.start();
    QWidget* focus = QApplication::focusWidget() ? QApplication::focusWidget() : on;
    switch (chance.below(10)) {
    case 0:
    case 1:
    case 2:
        QTest::mouseClick(on, Qt::LeftButton, {}, at);
        break;
    case 3:
        QTest::mouseDClick(on, Qt::LeftButton, {}, at);
        break;
    case 4: {
        QWheelEvent wheel(at, on->mapToGlobal(at), {}, {0, chance.below(2) ? 120 : -120}, Qt::NoButton, Qt::NoModifier,
            Qt::NoScrollPhase, false);
        QApplication::sendEvent(on, &wheel);
        break;
    }
    case 5:
        if (auto* line = qobject_cast<QLineEdit*>(focus))
            for (const QChar c : chance.of(texts)) {
                line->insert(c);
                emit line->textEdited(line->text());
            }
        break;
    case 6: {
        QTest::mousePress(on, Qt::LeftButton, {}, at);
        QTest::mouseMove(on, at + QPoint(17, -9));
        QTest::mouseRelease(on, Qt::LeftButton, {}, at + QPoint(17, -9));
        break;
    }
    case 7:
        QTest::keyClick(focus, static_cast<Qt::Key>(chance.of(with_control)), Qt::ControlModifier);
        break;
    default:
        QTest::keyClick(focus, static_cast<Qt::Key>(chance.of(keys)));
    }
    QApplication::processEvents();
    return static_cast<double>(since.elapsed());
}

} // namespace

TEST_CASE("random hands on mouse and keys do not break the window") {
    const int wanted = count_of("FULMOX_MONKEY", 5000);
    const auto seed = static_cast<unsigned>(count_of("FULMOX_SEED", 20261126));
    INFO("seed " << seed);
    Chance chance(seed);
    Window w;
    // dialogs that wait for an answer are answered no; menus are used or closed
    QTimer away;
    QObject::connect(&away, &QTimer::timeout, [&] {
        if (QWidget* menu = QApplication::activePopupWidget()) {
            // in a turn of its own: what the menu opens waits inside of it, and this timer is to end the wait
            if (chance.below(2) == 0)
                QTimer::singleShot(0, menu, [menu] {
                    QTest::keyClick(menu, Qt::Key_Down);
                    QTest::keyClick(menu, Qt::Key_Return);
                });
            else
                menu->close();
        } else if (auto* dialog = qobject_cast<QDialog*>(QApplication::activeModalWidget())) {
            dialog->reject();
        }
    });
    away.start(15);
    double longest = 0;
    for (int i = 0; i < wanted; ++i) {
        if (!w.window.isVisible()) w.window.show();
        if (i % 500 == 499) w.window.open_demo(); // what was done to it may leave little to do
        QWidget* top = QApplication::activeWindow();
        if (!top || chance.below(8) == 0) top = &w.window;
        longest = std::max(longest, random_event(top, chance));
    }
    away.stop();
    while (QWidget* menu = QApplication::activePopupWidget()) menu->close();
    // the project is whole: it can be saved and read, and the window goes on
    const std::string text = write_project(w.document().machine());
    const auto again = read_project(text);
    REQUIRE(again);
    CHECK(!again->read_only);
    CHECK(write_project(again->machine) == text);
    w.window.open_demo();
    CHECK(w.document().assessment().demand);
    CHECK(look_at_all(w) < within(5000));
    note(QStringLiteral("random events"), wanted, longest);
}

TEST_CASE("random hands on the dialogs do not break them: policies, materials, quick sums, imports") {
    const int wanted = count_of("FULMOX_MONKEY", 5000) / 10; // of each dialog
    const auto seed = static_cast<unsigned>(count_of("FULMOX_SEED", 20261126));
    INFO("seed " << seed);
    Chance chance(seed);
    const NoLibrary none;
    Window w;
    const auto file = [&](const char* name, const QByteArray& bytes) {
        const QString path = w.folder.filePath(QString::fromLatin1(name));
        QFile f(path);
        REQUIRE(f.open(QIODevice::WriteOnly));
        f.write(bytes);
        return path;
    };
    QByteArray rows = "Part number;Gear ratio;Nominal torque;T2B [Nm];Colour\r\n";
    for (int i = 0; i < 300; ++i) rows += "Q-" + QByteArray::number(i) + ";5;12,5;20;red\r\n";
    const QString list = file("list.csv", rows),
                  program = file("program.nc", "G21 G90\nG1 X100 F3000\nG1 X0 Y20\nG0 X5\n");
    struct Opener {
        const char* name;
        std::function<void()> open;
        const char* object;
    };
    const std::vector<Opener> openers{{"policies", [&] { w.window.edit_policies(); }, "policies"},
        {"materials", [&] { w.window.edit_materials(); }, "materials"},
        {"quick sums", [&] { w.window.show_quick_sums(); }, "quick-sums"},
        {"import of a list", [&] { import_parts(w.document(), list, {}, &w.window); }, "import-parts"},
        {"import of a program", [&] { import_gcode(w.document(), program, &w.window); }, "gcode"}};
    double longest = 0;
    int done = 0, reopened = 0;
    for (const Opener& each : openers) {
        INFO(each.name);
        w.window.open_demo();
        QPointer<QWidget> dialog;
        // what a dialog opens in its turn is answered no; a menu is closed
        QTimer away;
        QObject::connect(&away, &QTimer::timeout, [&] {
            if (QWidget* menu = QApplication::activePopupWidget()) {
                menu->close();
            } else if (auto* top = qobject_cast<QDialog*>(QApplication::activeModalWidget()); top && top != dialog) {
                top->reject();
            }
        });
        away.start(15);
        for (int i = 0; i < wanted; ++i) {
            if (!dialog || !dialog->isVisible()) {
                each.open();
                dialog = nullptr;
                for (QWidget* top : QApplication::topLevelWidgets())
                    if (top->isVisible() && top->objectName() == QLatin1String(each.object)) dialog = top;
                REQUIRE(dialog);
                ++reopened;
            }
            const double took = random_event(dialog, chance);
            if (took > 1000) WARN(each.name << ": event " << i << " took " << took << " ms");
            longest = std::max(longest, took);
            ++done;
        }
        away.stop();
        while (QWidget* menu = QApplication::activePopupWidget()) menu->close();
        if (dialog) dialog->close();
        QApplication::processEvents();
        QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
        REQUIRE(complaints().isEmpty());
        const std::string text = write_project(w.document().machine());
        const auto again = read_project(text);
        REQUIRE(again);
        CHECK(write_project(again->machine) == text);
    }
    CHECK(reopened >= 5);
    REQUIRE(QTest::qWaitFor([] { return !part_shelf().keeping(); }, hanging));
    w.window.open_demo();
    CHECK(look_at_all(w) < within(5000));
    note(QStringLiteral("random events on dialogs"), done, longest);
}

// A child that takes one step after the other without end and is killed in the midst of one: after the first few, at a
// random moment of the time that the last one took. How fast the machine is does not matter.
static void kill_in_the_midst(Chance& chance, const std::function<void()>& prepare, const std::function<void()>& step) {
    int ends[2];
    REQUIRE(::pipe(ends) == 0);
    const pid_t child = ::fork();
    REQUIRE(child >= 0);
    if (child == 0) {
        ::close(ends[0]);
        prepare();
        for (char done = 1;;) {
            step();
            if (::write(ends[1], &done, 1) != 1) ::_exit(1);
        }
    }
    ::close(ends[1]);
    QElapsedTimer since;
    qint64 took = 0;
    char done = 0;
    for (std::size_t steps = 1 + chance.below(2); steps > 0; --steps) {
        since.start();
        REQUIRE(::read(ends[0], &done, 1) == 1);
        took = since.nsecsElapsed() / 1000;
    }
    ::usleep(static_cast<useconds_t>(chance.below(static_cast<std::size_t>(std::clamp<qint64>(took, 1000, 500000)))));
    ::kill(child, SIGKILL);
    int status = 0;
    ::waitpid(child, &status, 0);
    ::close(ends[0]);
}

// The child saves without end, one content after the other; whenever it dies the file is one of them, and what it left
// beside it goes when the next session begins.
TEST_CASE("a program killed at any step of saving leaves a whole file") {
    const int wanted = count_of("FULMOX_KILLS", 25);
    Chance chance(static_cast<unsigned>(count_of("FULMOX_SEED", 20261126)));
    QTemporaryDir folder;
    const QString file = folder.filePath(QStringLiteral("work.fulmox")),
                  recovery = folder.filePath(QStringLiteral("r"));
    Machine one = demo(), other = demo();
    other.name = std::string(5000, 'o');
    const QByteArray first = QByteArray::fromStdString(write_project(one)),
                     second = QByteArray::fromStdString(write_project(other));
    REQUIRE(save_project(file, one).isEmpty());
    for (int i = 0; i < wanted; ++i) {
        std::unique_ptr<Recovery> session; // in the child
        kill_in_the_midst(
            chance, [&] { session = std::make_unique<Recovery>(recovery); },
            [&] {
                save_project(file, other);
                save_project(file, one);
            });
        const QByteArray left = bytes_in(file);
        INFO(i);
        REQUIRE((left == first || left == second));
        const Recovery next(recovery);
        CHECK(next.leftovers().empty());
        CHECK(QDir(folder.path()).entryList(QDir::Files | QDir::Hidden) == QStringList{QStringLiteral("work.fulmox")});
    }
    CHECK(QDir(recovery).entryList(QDir::Files | QDir::Hidden).isEmpty());
    note(QStringLiteral("programs killed while they saved"), wanted);
}

// The same for the libraries of parts and motors, which grow with each that is kept.
TEST_CASE("a program killed while it writes a library leaves a whole one") {
    const int wanted = count_of("FULMOX_KILLS", 25);
    Chance chance(static_cast<unsigned>(count_of("FULMOX_SEED", 20261126)) + 1);
    QTemporaryDir folder;
    const QString recovery = folder.filePath(QStringLiteral("r"));
    const NoLibrary none;
    const PartLists some = gearheads(40);
    const Motor motor = demo().axes[0].motor;
    const QString list = part_shelf().folder() + QStringLiteral("/mine.json");
    std::size_t parts = 0, motors = 0;
    int grown = 0;
    for (int i = 0; i < wanted; ++i) {
        if (parts > 800 || motors > 60) { // a new library
            QFile::remove(list);
            QFile::remove(motor_library().file());
            parts = motors = 0;
        }
        std::unique_ptr<Recovery> session; // in the child
        kill_in_the_midst(
            chance, [&] { session = std::make_unique<Recovery>(recovery); },
            [&] {
                part_shelf().keep(QStringLiteral("mine"), some);
                motor_library().add(motor);
                Motor another = motor;
                another.price = Quantity<Kind::number>(std::to_string(chance.below(100000)));
                motor_library().add(another);
            });
        INFO(i);
        if (QFile::exists(list)) {
            const QByteArray left = bytes_in(list);
            const auto read = read_parts(std::string_view(left.constData(), static_cast<std::size_t>(left.size())));
            REQUIRE(read);
            CHECK(read->problems.empty());
            const std::size_t now = read->parts.gearheads.size();
            CHECK(now >= parts);
            CHECK(now % 40 == 0);
            grown += now > parts ? 1 : 0;
            parts = now;
        }
        if (QFile::exists(motor_library().file())) {
            const QByteArray left = bytes_in(motor_library().file());
            const auto read = read_sheets(std::string_view(left.constData(), static_cast<std::size_t>(left.size())));
            REQUIRE(read);
            CHECK(read->motors.size() >= motors);
            motors = read->motors.size();
        }
        const Recovery next(recovery);
        CHECK(QDir(part_shelf().folder()).entryList(QDir::Files | QDir::Hidden).size() <= 1);
        const QFileInfo about(motor_library().file());
        CHECK(
            QDir(about.path()).entryList({about.fileName() + QStringLiteral("*")}, QDir::Files | QDir::Hidden).size() <=
            1);
    }
    CHECK(grown > wanted / 2); // each had written one at least
    note(QStringLiteral("programs killed while they wrote a library"), wanted);
}

TEST_CASE("markup in names is text everywhere") {
    Window w;
    const QString folder = QStringLiteral(FULMOX_SOURCE_DIR "/tests/cases/faults/");
    for (const char* name : {"F07-markup-in-names.fulmox", "F07b-endless-image.fulmox"}) {
        REQUIRE(w.window.open_file(folder + QLatin1String(name)));
        w.window.show_page(3);
        w.settle();
        w.window.edit_policies();
        QApplication::processEvents();
        int labels = 0;
        for (QWidget* top : QApplication::topLevelWidgets())
            for (const QLabel* l : top->findChildren<QLabel*>()) {
                if (!l->isVisible()) continue;
                ++labels;
                INFO(l->text().left(200).toStdString());
                // those that are drawn as markup have it from the program, with what it quotes escaped
                CHECK((l->textFormat() != Qt::AutoText));
                if (l->textFormat() == Qt::RichText)
                    for (const char* sign : {"<img", "<h1", "<table", "<a "})
                        CHECK(!l->text().contains(QLatin1String(sign)));
            }
        CHECK(labels > 20);
        for (const QWidget* each : w.window.findChildren<QWidget*>()) {
            INFO(each->toolTip().left(200).toStdString());
            CHECK((!Qt::mightBeRichText(each->toolTip()) || !each->toolTip().contains(QLatin1String("<img"))));
        }
        for (QWidget* top : QApplication::topLevelWidgets())
            if (top != &w.window) top->close();
    }
    CHECK(plain_tip(QStringLiteral("a < b")) == QStringLiteral("a < b"));
    CHECK(plain_tip(QStringLiteral("<b>x</b>")).contains(QStringLiteral("&lt;b&gt;")));
}

TEST_CASE("no list grows beyond what a file keeps") {
    Window w;
    QString why;
    QObject::connect(&w.document(), &Document::refused, [&](const QString& text) { why = text; });
    const auto grow = [&](const char* what, std::size_t most, const std::function<void(Machine&, std::size_t)>& to) {
        INFO(what);
        why.clear();
        w.document().edit(QStringLiteral("many"), [&](Machine& m) { to(m, most); });
        CHECK(why.isEmpty());
        const Machine full = w.document().machine();
        w.document().edit(QStringLiteral("one more"), [&](Machine& m) { to(m, most + 1); });
        INFO(why.toStdString());
        CHECK(why.contains(QStringLiteral("at most %1").arg(most)));
        CHECK(w.document().machine() == full);
        const auto read = read_project(write_project(full));
        REQUIRE(read);
        CHECK(!read->read_only);
        CHECK(read->machine == full);
        w.document().undo_stack().undo();
    };
    grow("axes", 200, [](Machine& m, std::size_t n) { m.axes.resize(n, m.axes[0]); });
    grow("stages", 20, [](Machine& m, std::size_t n) { m.axes[0].stages.resize(n); });
    grow("bodies", 200, [](Machine& m, std::size_t n) { m.axes[0].bodies.resize(n); });
    grow("points", 200, [](Machine& m, std::size_t n) { m.axes[0].motor.peak.resize(n); });
    grow("policies", 100, [](Machine& m, std::size_t n) { m.policies.resize(n, m.policies[0]); });
    grow("materials", 500, [](Machine& m, std::size_t n) { m.materials.resize(n, m.materials[0]); });
    // and by hand
    w.document().edit(QStringLiteral("many"), [](Machine& m) { m.axes.resize(200, m.axes[0]); });
    for (auto* b : w.window.findChildren<QAbstractButton*>())
        if (b->text() == QStringLiteral("+ axis")) QTest::mouseClick(b, Qt::LeftButton);
    CHECK(w.document().machine().axes.size() == 200);
    CHECK(w.window.message().contains(QStringLiteral("at most 200")));
}

TEST_CASE("large projects, each within what a file may hold, are shown in time") {
    Window w;
    look_at_all(w); // a page is made when it is first looked at, whatever the project
    double longest = 0;
    const auto show = [&](const char* what, const Machine& m) {
        INFO(what);
        const std::string text = write_project(m);
        CHECK(text.size() <= 1'800'000);
        const OwnTime since;
        auto read = read_project(text);
        REQUIRE(read);
        CHECK(!read->read_only);
        REQUIRE(w.window.open_project({std::move(*read), {}}));
        const double opened = since.elapsed();
        const double page = look_at_all(w);
        CAPTURE(opened, page);
        CHECK(opened < within(1000));
        CHECK(page < within(1000));
        if (qEnvironmentVariableIsSet("FULMOX_RELIABILITY"))
            WARN(what << ": " << opened << " ms, page " << page << " ms");
        longest = std::max({longest, opened, page});
    };
    const auto repeated = [](Machine m, const char* times) {
        Repeat r;
        r.segments = Quantity<Kind::number>(std::to_string(m.axes[0].cycle.segments.size()));
        r.times = Quantity<Kind::number>(times);
        m.axes.resize(1);
        m.axes[0].cycle.segments.emplace_back().what = r;
        return m;
    };
    const Machine demo_cell = w.document().machine();
    for (std::size_t i = 0; i < demo_cell.axes.size(); ++i) {
        Machine m = demo_cell;
        std::swap(m.axes[0], m.axes[i]);
        show(m.axes[0].name.c_str(),
            repeated(
                m, std::to_string(std::min<std::size_t>(10'000, 90'000 / assess(m, 0).motion->pieces.size())).c_str()));
    }
    Machine many = demo_cell;
    for (std::size_t i = 0; i < many.axes.size(); ++i)
        many.axes[i].motor.pictures.clear(); // they have bounds of their own
    while (many.axes.size() < 140) many.axes.push_back(many.axes[many.axes.size() % 7]);
    show("140 axes", many);
    Machine most = machine_with("screw");
    while (most.axes.size() < 200) most.axes.push_back(Axis(std::as_const(most.axes)[0]));
    show("200 axes", most);
    Machine segments = demo_cell;
    segments.axes.resize(1);
    auto& list = segments.axes[0].cycle.segments;
    const auto once = list;
    while (list.size() < 3000) list.insert(list.end(), once.begin(), once.end());
    show("3000 segments", segments);
    for (const char* key : {"table", "slider_crank"}) {
        Machine turns = machine_with(key);
        Jog jog;
        jog.speed = MotionQuantity<Order::speed>("6000 rpm");
        jog.acceleration = MotionQuantity<Order::acceleration>("8 rad/s^2");
        jog.duration = Quantity<Kind::time>("20000 s");
        turns.axes[0].cycle.segments.assign(1, Segment{});
        turns.axes[0].cycle.segments[0].what = jog;
        show("nearly 10 000 turns at changing speed", turns);
    }
    Machine recorded = demo_cell;
    recorded.axes.resize(1);
    auto numbers = std::make_shared<std::vector<double>>();
    constexpr int rows = 60000;
    for (int i = 0; i < rows; ++i) {
        numbers->push_back(i * 1e-3);
        numbers->push_back(std::round(1e5 * (1 - std::cos(2 * M_PI * i / (rows - 1)))) / 1e6);
    }
    Trace trace;
    trace.name = "long";
    trace.samples = Samples{numbers, 2};
    recorded.axes[0].cycle.segments.assign(1, Segment{});
    recorded.axes[0].cycle.segments[0].what = trace;
    show("a recording of 60 000 samples", recorded);
    Machine texts = demo_cell;
    texts.name = std::string(900'000, 'n');
    show("a name of 900 000 letters", texts);
    texts = demo_cell;
    texts.axes[0].name = std::string(400'000, 'a') + std::string(400'000, ' ');
    show("an axis' name of 800 000 letters", texts);
    note(QStringLiteral("large legal projects opened on every page"), 15, longest);
}

TEST_CASE("an axis that takes long is assessed beside the window, and nothing is said of it meanwhile") {
    Window w;
    w.click_page(3);
    const auto repeat = [&](const char* times) {
        QElapsedTimer since;
        since.start();
        w.document().edit(QStringLiteral("long"), [&](Machine& m) {
            auto& segments = m.axes[0].cycle.segments;
            if (std::holds_alternative<Repeat>(segments.back().what)) segments.pop_back();
            Repeat r;
            r.segments = Quantity<Kind::number>(std::to_string(segments.size()));
            r.times = Quantity<Kind::number>(times);
            segments.emplace_back().what = r;
        });
        return static_cast<double>(since.elapsed());
    };
    const double before = w.document().assessment().figure("motion.cycle_time")->si;
    int pending = 0;
    double longest = 0;
    for (const char* times : {"9000", "9001", "9002", "9003"}) { // each takes the place of the one before
        longest = std::max(longest, repeat(times));
        const Assessment& a = w.document().assessment();
        if (!a.pending) continue;
        ++pending;
        CHECK(a.figures.empty());
        CHECK(!a.demand);
        for (const Limit& l : a.limits) CHECK(l.state == LimitState::cannot_say);
        CHECK(waiting_for(w.document(), "demand.peak_torque") == QStringLiteral("being calculated…"));
        int said = 0;
        for (const QLabel* label : w.window.findChildren<QLabel*>()) {
            if (!label->isVisible()) continue;
            CHECK(!label->text().contains(QStringLiteral("missing")));
            CHECK(!label->text().contains(QStringLiteral("calculated….")));
            said += label->text().contains(QStringLiteral("calculated…"));
        }
        CHECK(said >= 3); // under the heading, in the tiles, in the list
    }
    CHECK(pending > 0);
    CHECK(longest < within(1000));
    // undo while it is under way: what comes late is not taken for what is asked now
    w.document().undo_stack().undo();
    w.document().undo_stack().undo();
    w.assessed();
    CHECK(w.document().assessment().figure("motion.cycle_time")->si == Approx(9001 * before).epsilon(1e-9));
    for (int i = 0; i < 2; ++i) w.document().undo_stack().undo();
    CHECK(w.document().assessment().figure("motion.cycle_time")->si == before);
    QTest::qWait(300);
    CHECK(w.document().assessment().figure("motion.cycle_time")->si == before);
}

TEST_CASE("a long cycle is drawn thinned, written in full, and its motors are judged a little later") {
    Window w;
    w.document().edit(QStringLiteral("long"), [](Machine& m) {
        Repeat r;
        r.segments = Quantity<Kind::number>(std::to_string(m.axes[0].cycle.segments.size()));
        r.times = Quantity<Kind::number>("2500");
        m.axes[0].cycle.segments.emplace_back().what = r;
    });
    w.click_page(3);
    w.settle();
    auto* plot = w.window.findChild<TorquePlot*>();
    REQUIRE(plot);
    const Demand& d = *w.document().assessment().demand;
    REQUIRE(d.spans.size() > 10000);
    qsizetype rows = 1; // the heads
    for (const Span& s : d.spans) rows += s.direction == 0 ? 2 : 9;
    CHECK(plot->csv().count(QLatin1Char('\n')) == rows);
    qsizetype drawn = 0;
    double top = 0;
    for (int i = 0; i < plot->graphCount(); ++i)
        if (plot->graph(i)->name().startsWith(QStringLiteral("torque"))) {
            drawn = plot->graph(i)->dataCount();
            for (const QCPGraphData& each : *plot->graph(i)->data()) top = std::max(top, std::abs(each.value));
        }
    CHECK((drawn > 500 && drawn < 3000));
    CHECK(top == Approx(std::abs(d.peak.torque)).epsilon(1e-6)); // what matters is not thinned out
    w.click_page(4);
    auto* table = w.window.findChild<MotorTable*>();
    REQUIRE(table);
    MotorModel& motors = table->model_of_motors();
    const auto said = [&] { return motors.data(motors.index(0, MotorModel::tightest), Qt::DisplayRole).toString(); };
    if (motors.judging()) CHECK(said() == QStringLiteral("being judged…"));
    QElapsedTimer since;
    since.start();
    while (motors.judging() && static_cast<double>(since.elapsed()) < within(60000)) QTest::qWait(50);
    CHECK(!motors.judging());
    CHECK(said() != QStringLiteral("being judged…"));
    CHECK(motors.counts().suitable > 0);
}
