#include "core/files/document.h"
#include "core/files/recovery.h"
#include "core/model/part.h"
#include "tests/demo.h"

#include <filesystem>
#include <rapidcheck.h>

#include <map>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Matchers::Contains;

namespace {

std::string replaced(std::string text, const std::string& from, const std::string& to) {
    const std::size_t at = text.find(from);
    INFO(from);
    REQUIRE(at != std::string::npos);
    return text.replace(at, from.size(), to);
}

int line_of(const std::string& text, const std::string& what) {
    const std::size_t at = text.find(what);
    REQUIRE(at != std::string::npos);
    return 1 + static_cast<int>(std::count(text.begin(), text.begin() + static_cast<std::ptrdiff_t>(at), '\n'));
}

const Problem* at(const Problems& problems, const std::string& path) {
    for (const Problem& p : problems)
        if (p.path == path) return &p;
    return nullptr;
}

// A machine in which every field has a value of its own.
Machine distinct() {
    Machine m = demo();
    m.axes.push_back(m.axes[0]);
    m.axes[1].mechanism = [&] {
        Screw s = std::get<Screw>(m.axes[0].mechanism);
        s.thread = Thread::trapezoidal;
        return s;
    }();
    int n = 0;
    for (FieldRef& f : walk(m)) {
        ++n;
        if (f.type == FieldRef::Type::quantity) {
            const Range& r = f.quantity_spec.range;
            const double v = r.min + (r.max - r.min) * (0.1 + 0.8 * n / 4000.0);
            const std::string unit =
                std::string_view(f.quantity_spec.unit) == "1" ? "" : " " + std::string(f.quantity_spec.unit);
            std::string text = std::to_string(v);
            f.active = true;
            INFO(f.path << " " << text);
            const auto problem = assign(f, text + unit);
            REQUIRE(!problem);
            f.quantity->standing = static_cast<InputSource>(n % 4);
            f.quantity->note = n % 3 == 0 ? "note " + std::to_string(n) : "";
        } else if (f.type == FieldRef::Type::text) {
            *f.text = "text " + std::to_string(n) + " äöü \"quoted\" \\ \n";
        } else if (f.type == FieldRef::Type::flag) {
            *f.flag = n % 2 == 0;
        }
    }
    return m;
}

} // namespace

TEST_CASE("a round trip keeps every field, each with a value of its own") {
    Machine m = distinct();
    for (std::size_t i = 0; i < m.axes.size(); ++i) stay_in_place(m.axes[i]); // of which something is typed
    const std::string text = write_project(m);
    const auto again = read_project(text);
    REQUIRE(again);
    CHECK(again->machine == m);
    CHECK(write_project(again->machine) == text);
    CHECK(!again->read_only);
}

TEST_CASE("the committed demo is written as the program writes it") {
    const std::string text = file_text("data/projects/tile-glazing-cell.fulmox");
    const auto read = read_project(text);
    REQUIRE(read);
    CHECK(write_project(read->machine) == text);
}

TEST_CASE("what the user wrote stays as written") {
    Machine m = demo();
    set(m, "/mechanism/lead", "2*5 mm");
    set(m, "/load/payload", "50 lb ± 2 %");
    const std::string text = write_project(m);
    CHECK_THAT(text, Contains("\"2*5 mm\"") && Contains("\"50 lb ± 2 %\""));
}

TEST_CASE("unknown members are kept, wherever they stand") {
    std::string text = file_text("data/projects/tile-glazing-cell.fulmox");
    text = replaced(text, "\"name\": \"Tile-glazing cell\"",
        "\"name\": \"Tile-glazing cell\", \"colour\": {\"a\": [1, 2.5, null]}");
    text = replaced(text, "\"thread\": \"ball\"", "\"thread\": \"ball\", \"maker_note\": \"keep\"");
    text = replaced(text, "\"inclination\"", "\"x-1\": true, \"inclination\"");
    const auto read = read_project(text);
    REQUIRE(read);
    CHECK(read->problems.empty());
    const std::string out = write_project(read->machine);
    CHECK_THAT(out, Contains("\"maker_note\": \"keep\"") && Contains("\"x-1\": true") && Contains("\"colour\": {"));
    const auto again = read_project(out);
    REQUIRE(again);
    CHECK(again->machine == read->machine);
}

TEST_CASE("a number and the same number as text are read alike, and both are pointed out where a unit is missing") {
    const std::string good = file_text("data/projects/tile-glazing-cell.fulmox");
    std::vector<Machine> read;
    for (const char* lead : {"45", "\"45\""}) {
        const auto r = read_project(replaced(good, "\"90 deg\"", lead));
        REQUIRE(r);
        CHECK(!r->read_only);
        const Problem* p = at(r->problems, "/axes/0/load/inclination");
        REQUIRE(p);
        CHECK(p->severity == Severity::suspicious);
        CHECK(p->message == "found 45 without a unit; it is read as 45 deg");
        CHECK(p->line == line_of(good, "\"90 deg\""));
        read.push_back(r->machine);
    }
    CHECK(read[0] == read[1]);
    CHECK(read[0].axes[0].load.inclination.text == "45 deg");
}

TEST_CASE("a member that looks misspelled is pointed out, others are kept in silence") {
    const std::string good = file_text("data/projects/tile-glazing-cell.fulmox");
    const auto r = read_project(replaced(good, "\"seal_drag\"", "\"seal_darg\""));
    REQUIRE(r);
    const Problem* p = at(r->problems, "/axes/0/load/seal_darg");
    REQUIRE(p);
    CHECK(p->severity == Severity::suspicious);
    CHECK_THAT(p->message, Contains("Did you mean \"seal_drag\"?"));
    CHECK(p->line == line_of(good, "\"seal_drag\""));
    CHECK_THAT(write_project(r->machine), Contains("\"seal_darg\""));
}

TEST_CASE("what a choice in a file cannot be read as stops what depends on it, until it is given again") {
    const std::string good = file_text("data/projects/tile-glazing-cell.fulmox");
    auto r = read_project(replaced(good, "\"law\": \"trapezoid\"", "\"law\": \"poly345\""));
    REQUIRE(r);
    CHECK(!assess(r->machine, 0).demand);
    CHECK(assess(r->machine, 1).demand);
    const Assessment now = assess(r->machine, 0);
    const Problem* p = at(now.problems, "/axes/0/cycle/segments/0/what/law");
    REQUIRE(p);
    CHECK_THAT(p->message, Contains("poly345"));
    forget_unread(r->machine, "/axes/0/cycle/segments/0/what/law");
    CHECK(assess(r->machine, 0).demand);
}

TEST_CASE("errors come with pointer, line, what was found and what is allowed; the rest is kept") {
    const std::string good = file_text("data/projects/tile-glazing-cell.fulmox");
    struct Case {
        const char* from;
        const char* to;
        const char* path;
        std::vector<const char*> words;
        bool lossy;
    };
    const std::vector<Case> cases{
        {"\"90 deg\"", "\"90 kg\"", "/axes/0/load/inclination", {"mass", "angle is wanted"}, false},
        {"\"90 deg\"", "\"900 deg\"", "/axes/0/load/inclination", {"900", "-90 to 90 deg"}, false},
        {"\"90 deg\"", "\"1,5 deg\"", "/axes/0/load/inclination", {"comma"}, false},
        {"\"ball\"", "\"lead screw\"", "/axes/0/mechanism/thread", {"lead screw", "\"ball\", \"trapezoidal\""}, true},
        {"\"screw\"", "\"magnet\"", "/axes/0/mechanism/kind", {"magnet", "\"screw\""}, true},
        {"\"fixed_supported\"", "7", "/axes/0/mechanism/fixity", {"number 7", "\"fixed_fixed\""}, true},
        {"\"brake_holds\": false", "\"brake_holds\": \"no\"", "/axes/0/cycle/segments/1/what/brake_holds",
            {"true and false"}, true},
        {"\"standing\": \"measured\"", "\"standing\": \"guessed\"", "/axes/0/load/carriage_mass/standing",
            {"guessed", "\"measured\""}, true},
        {"\"unit_system\": \"si\"", "\"unit_system\": \"metric\"", "/unit_system", {"metric", "\"mixed\""}, true},
        {"\"policy\": \"General servo\"", "\"policy\": \"Mine\"", "/axes/0/policy", {"Mine"}, false},
    };
    for (const Case& c : cases) {
        INFO(c.from << " -> " << c.to);
        const std::string bad = replaced(good, c.from, c.to);
        const auto read = read_project(bad);
        REQUIRE(read);
        const Problem* p = at(read->problems, c.path);
        REQUIRE(p);
        INFO(p->message);
        for (const char* w : c.words) CHECK_THAT(p->message, Contains(w));
        CHECK(p->line == line_of(good, c.from));
        CHECK(read->read_only == c.lossy);
        CHECK(read->machine.axes.size() == 11);
        CHECK(read->machine.axes[0].name == "Glaze-head lift");
    }
    // what cannot be read as a value keeps its text through a save
    const auto read = read_project(replaced(good, "\"90 deg\"", "\"90 kg\""));
    CHECK_THAT(write_project(read->machine), Contains("\"90 kg\""));
}

TEST_CASE("files that are no projects are refused in words") {
    const auto why = [](std::string_view text) {
        const auto r = read_project(text);
        REQUIRE(!r);
        return to_text(r.error());
    };
    const std::string good = file_text("data/projects/tile-glazing-cell.fulmox");
    CHECK_THAT(why(""), Contains("empty"));
    CHECK_THAT(why("   \n "), Contains("empty"));
    CHECK_THAT(why("not json"), Contains("line 1") && Contains("not valid JSON"));
    CHECK_THAT(why(std::string_view("\x7f"
                                    "ELF\0\0\0",
                   7)),
        Contains("binary"));
    CHECK_THAT(why("[]"), Contains("object"));
    CHECK_THAT(why("{}"), Contains("fulmox-project"));
    CHECK_THAT(why(R"({"format": "fulmox-project"})"), Contains("version"));
    CHECK_THAT(why(R"({"format": "fulmox-project", "version": 0})"), Contains("version"));
    CHECK_THAT(why(R"({"format": "fulmox-project", "version": 1e99})"), Contains("version"));
    CHECK_THAT(why("{\n\"format\": \"fulmox-project\",\n\"version\": 2, \"version\": 2}"),
        Contains("line 3") && Contains("twice"));
    CHECK_THAT(why(good.substr(0, good.size() / 2)), Contains("cut off") && Contains("line"));
    CHECK_THAT(why("{\"a\": \"\xff\xfe\"}"), Contains("not valid JSON"));
    CHECK_THAT(why(std::string(200000, '[')), Contains("nested more than"));
    CHECK_THAT(why("{\"a\":" + std::string(5000, '[') + std::string(5000, ']') + "}"), Contains("nested more than"));
    std::string huge(100u * 1000 * 1000, ' ');
    CHECK_THAT(why(huge), Contains("100 MB") && Contains("at most"));
}

TEST_CASE("every prefix of a project is an error in words, never a crash") {
    const std::string good = file_text("data/projects/tile-glazing-cell.fulmox");
    for (std::size_t n = 0; n + 3 < good.size(); n += 37) {
        const auto r = read_project(std::string_view(good).substr(0, n));
        REQUIRE(!r);
        CHECK(!r.error().message.empty());
    }
}

TEST_CASE("random damage is an error or a project, never a crash") {
    const std::string good = file_text("data/projects/tile-glazing-cell.fulmox");
    const bool holds = rc::check([&] {
        std::string text = good;
        for (int i = *rc::gen::inRange(1, 6); i > 0; --i)
            text[static_cast<std::size_t>(*rc::gen::inRange(0, static_cast<int>(text.size())))] =
                static_cast<char>(*rc::gen::inRange(0, 256));
        const auto r = read_project(text);
        if (!r) return;
        for (std::size_t i = 0; i < r->machine.axes.size(); ++i) assess(r->machine, i);
        RC_ASSERT(static_cast<bool>(read_project(write_project(r->machine))));
    });
    REQUIRE(holds);
}

TEST_CASE("an older version is upgraded to the present text") {
    for (int version = 1; version < project_version; ++version) {
        const std::string stem = "tests/fixtures/version-" + std::to_string(version);
        const auto old = read_project(file_text(stem + ".fulmox"));
        INFO(stem);
        REQUIRE(old);
        CHECK(old->version == version);
        CHECK(old->upgraded);
        CHECK(!old->read_only);
        CHECK_THAT(old->warning, Contains("version " + std::to_string(version)));
        INFO(old->problems.size() << (old->problems.empty() ? "" : to_text(old->problems[0])));
        // the starts of a sliding thread stand in no file before version 4, and nothing is made up in their place
        for (const Problem& p : old->problems)
            if (p.severity == Severity::error) CHECK((version == 3 && p.path == "/axes/1/mechanism/starts"));
        CHECK(write_project(old->machine) == file_text(stem + "-upgraded.fulmox"));
        const auto again = read_project(write_project(old->machine));
        REQUIRE(again);
        CHECK(!again->upgraded);
    }
}

TEST_CASE("a newer version opens for reading, with a warning") {
    const auto newer = read_project(replaced(file_text("data/projects/tile-glazing-cell.fulmox"),
        "\"version\": " + std::to_string(project_version), "\"version\": 99"));
    REQUIRE(newer);
    CHECK(newer->read_only);
    CHECK_THAT(newer->warning, Contains("newer"));
    CHECK(newer->machine.axes.size() == 11);
}

TEST_CASE("the committed schema is the generated one") {
    CHECK(file_text("docs/formats/fulmox-project.schema.json") == project_schema());
}

TEST_CASE("the catalogue reads without a problem and has enough rows") {
    const auto c = read_motors(file_text("data/catalogue/motors.json"));
    REQUIRE(c);
    CHECK(c->problems.empty());
    CHECK(c->motors.size() >= 240);
    std::map<std::size_t, int> kinds;
    Machine m = demo();
    for (const Motor& motor : c->motors) {
        INFO(motor.name);
        ++kinds[motor.electric.index()];
        const bool linear = std::holds_alternative<LinearForcer>(motor.electric);
        const std::size_t axis = linear ? 7 : 0; // the demo has a direct drive
        m.axes[axis].motor = motor;
        const Assessment a = assess(m, axis);
        REQUIRE(a.can);
        CHECK(a.motor);
        if (!motor.stepper()) CHECK(a.can->peak.stall() > a.can->continuous_stall());
        // a motor of the other sort has no effect
        m.axes[7 - axis].motor = motor;
        CHECK(!assess(m, 7 - axis).can);
        for (const SheetPair& p : check_sheet(motor)) {
            INFO(p.label << " " << p.factor);
            CHECK(p.verdict == Verdict::agrees);
        }
        if (!motor.stepper()) CHECK(check_sheet(motor).size() >= 3);
    }
    for (std::size_t kind = 0; kind < std::variant_size_v<MotorKind>; ++kind) CHECK(kinds[kind] >= 10);
    CHECK(kinds[4] + kinds[5] >= 80);
    CHECK(!read_motors("{}"));
}

TEST_CASE("line numbers survive comments in strings, CRLF and long lines") {
    const auto d = parse_document("{\r\n\"a\": \"x\\ny\",\r\n\"b\": [1,\r\n2]}");
    REQUIRE(d);
    CHECK(d->line("/a") == 2);
    CHECK(d->line("/b/0") == 3);
    CHECK(d->line("/b/1") == 4);
    CHECK(d->line("/b/7/c") == 3);
    CHECK(child_pointer("/a", "b/c~d") == "/a/b~1c~0d");
}

TEST_CASE("what is kept of unsaved work reads back as it was, and anything else says why not") {
    const RecoveryFile kept{"/home/u/\"lift\"\n.fulmox", "00ff", write_project(demo())};
    const auto read = read_recovery(write_recovery(kept));
    REQUIRE(read);
    CHECK(*read == kept);
    const auto refuse = [](const char* text, const char* word) {
        const auto r = read_recovery(text);
        REQUIRE(!r);
        INFO(to_text(r.error()));
        CHECK(to_text(r.error()).find(word) != std::string::npos);
    };
    refuse("", "empty");
    refuse("[]", "not an object");
    refuse("{\"file\": \"a\"}", "\"project\" is missing");
    refuse("{\n\"project\": 7}", "line 2, /project");
    refuse("{\"project\": \"\", \"file\": 7}", "\"file\" is not a text");
    refuse("{\"project\": \"cut o", "cut off");
    // a mark that is none: nobody can say what the file held, so nothing is taken for unchanged
    for (const char* mark : {"0", "zz", "00 ff"})
        CHECK(read_recovery(std::string("{\"project\": \"\", \"mark\": \"") + mark + "\"}")->mark.empty());
}

TEST_CASE("long texts are put in whole, whatever else a project says") {
    Machine m = demo();
    CurvePicture p;
    p.image.base64 = std::make_shared<const std::string>("QUJD");
    m.axes.at(0).motor.pictures = {p, p};
    // what stands for them meanwhile may be a name somebody typed
    m.name = "long text 0.0";
    m.axes.at(1).name = "long text 1.1";
    const auto back = read_project(write_project(m));
    REQUIRE(back);
    CHECK(back->machine == m);
    // of unsaved work every letter comes back
    RecoveryFile kept{"a \"file\"", "", "{\n  \"a\": \"\\u0001 \\\\ ä\t\x01\"\n}\n"};
    const auto again = read_recovery(write_recovery(kept));
    REQUIRE(again);
    CHECK(again->project == kept.project);
    CHECK(again->file == kept.file);
    kept.file = "long text 0.0";
    CHECK(read_recovery(write_recovery(kept))->file == kept.file);
}

TEST_CASE("what is long in base64 is read as it is, with its line, wherever it stands") {
    const std::string word(5000, 'A');
    const std::string text = "{\n \"set aside 0.0\": \"set aside 0.0\",\n \"a\": \"" + word +
                             "\",\n \"quoted\": \"x\\\"" + word + "\\\"\",\n \"list\": [1, \"" + word +
                             "B\"],\n \"last\": 2 }";
    const auto d = parse_document(text);
    REQUIRE(d);
    CHECK(d->root == Json::parse(text));
    CHECK(d->line("/a") == 3);
    CHECK(d->line("/quoted") == 4);
    CHECK(d->line("/list/1") == 5);
    CHECK(d->line("/last") == 6);
    // a name that long is odd, and no name of two members
    CHECK(!parse_document("{\"" + word + "\": 1, \"" + word + "\": 2}"));
    CHECK(parse_document("{\"" + word + "\": 1}")->root == Json::parse("{\"" + word + "\": 1}"));
    CHECK(!parse_document("[\"" + word + "\" \"" + word + "\"]"));
    CHECK(parse_document("\"" + word + "\"")->root == word);
}
