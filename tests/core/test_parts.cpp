// Every kind of part has its place in an axis, in a project and in a catalogue.
#include "core/files/part_table.h"
#include "core/files/project.h"
#include "core/match/assess.h"
#include "core/match/candidates.h"
#include "core/match/ratio_curve.h"
#include "core/model/part.h"
#include "core/model/walk.h"
#include "tests/demo.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>
#include <numeric>
#include <rapidcheck.h>
#include <set>
#include <sstream>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Matchers::Contains;

TEST_CASE("every kind of part is where its row says, and its catalogue is free of errors") {
    REQUIRE(!part_kinds().empty());
    std::set<std::string> keys;
    for (const PartKind& kind : part_kinds()) {
        INFO(kind.key);
        CHECK(keys.insert(kind.key).second);
        CHECK(&part_kind(kind.key) == &kind);
        Machine m = demo();
        // a stage is an entry of a list, and a supply feeds more than one axis
        if (*kind.at) {
            const auto chosen = find_field(m, std::string("/axes/0") + kind.at);
            REQUIRE(chosen);
            CHECK((chosen->type == FieldRef::Type::group || chosen->type == FieldRef::Type::list));
        } else {
            CHECK(kind.places(m.axes[0]) == 0);
        }
        const auto own = find_field(m, std::string("/") + kind.list);
        REQUIRE(own);
        REQUIRE(own->list);
        const std::size_t before = kind.own(m).size();
        kind.own(m).insert(before);
        CHECK(own->list.size() == before + 1);
        // the catalogue that comes with the program
        const bool json = kind.key == std::string("motor");
        const std::string file = file_text(std::string("data/catalogue/") + kind.list + (json ? ".json" : ".csv"));
        auto read = read_any_parts(file, "shipped", "2026-01-01");
        REQUIRE(read);
        CHECK(read->problems.empty());
        const std::map<std::string, std::size_t> promised{
            {"motor", 240}, {"gearhead", 200}, {"coupling", 100}, {"brake", 40}, {"drive", 80}, {"supply", 40}};
        const std::size_t all = kind.own(read->parts).size();
        CHECK(all >= promised.at(kind.key));
        // as JSON it is the same again
        const auto again = read_parts(write_parts("again", read->parts));
        REQUIRE(again);
        CHECK(again->problems.empty());
        CHECK(again->parts == read->parts);
        // a part that cannot be is named by its line, and the others are kept
        std::string bent = write_parts("bent", read->parts);
        std::size_t at = bent.find(std::string("\"") + kind.list + "\"");
        for (int i = 0; i < 3; ++i) at = bent.find("\"name\"", at + 1);
        bent.insert(bent.rfind('{', at), "5, ");
        auto other = read_parts(bent);
        REQUIRE(other);
        CHECK(kind.own(other->parts).size() == all + 1);
        bool named = false;
        for (const Problem& p : other->problems)
            named = named || (p.path == std::string("/") + kind.list + "/2" && p.line > 2);
        CHECK(named);
    }
    CHECK_THROWS_AS(part_kind("wheel"), std::out_of_range);
}

namespace {

PartTableRead read_text(const std::string& text, const std::string& kind = "") {
    std::istringstream in(text);
    const PartTable table = look_at_part_table(in, kind);
    in.clear();
    in.seekg(0);
    return read_part_table(in, table, "list.csv", "2026-11-27");
}

PartTable looked_at(const std::string& text) {
    std::istringstream in(text);
    return look_at_part_table(in);
}

std::string said(const PartTableRead& read) {
    std::string out;
    for (const Problem& p : read.problems) out += to_text(p) + "\n";
    return out;
}

// As a program of its time writes it, two bytes for each letter.
std::string utf16(const std::string& ascii_and_micro, bool big, bool mark) {
    std::string out = mark ? (big ? "\xFE\xFF" : "\xFF\xFE") : "";
    for (std::size_t i = 0; i < ascii_and_micro.size(); ++i) {
        unsigned code = static_cast<unsigned char>(ascii_and_micro[i]);
        if (code == 0xC2) code = static_cast<unsigned char>(ascii_and_micro[++i]); // U+0080 to U+00BF
        const char high = static_cast<char>(code >> 8), low = static_cast<char>(code & 0xFF);
        out += big ? high : low;
        out += big ? low : high;
    }
    return out;
}

} // namespace

TEST_CASE("a parts list of any order, units, separators and encodings gives the same parts") {
    const std::string plain = "name,ratio,efficiency,rated torque [N·m],peak torque [N·m],mass [kg]\n"
                              "A 5,5,0.97,12.5,20,1.25\nB 10,10,0.95,10,17.5,1.5\n";
    const PartTableRead first = read_text(plain);
    INFO(said(first));
    REQUIRE(first.problems.empty());
    REQUIRE(first.parts.gearheads.size() == 2);
    const Stage& a = first.parts.gearheads[0];
    CHECK(a.name == "A 5");
    CHECK(a.rated_torque.si == 12.5);
    CHECK(a.rated_torque.text == "12.5 N·m");
    CHECK(a.rated_torque.standing == InputSource::datasheet);
    CHECK(a.provenance.file == "list.csv");
    CHECK(a.provenance.line == "2");
    CHECK(a.provenance.date == "2026-11-27");
    const auto same = [&](const std::string& text, const char* encoding) {
        const PartTable table = looked_at(text);
        CHECK(table.encoding == encoding);
        const PartTableRead read = read_text(text);
        INFO(said(read));
        CHECK(read.problems.empty());
        REQUIRE(read.parts.gearheads.size() == 2);
        for (std::size_t i = 0; i < 2; ++i) {
            const Stage &x = read.parts.gearheads[i], &y = first.parts.gearheads[i];
            CHECK(x.name == y.name);
            CHECK_THAT(x.ratio.si, Catch::Matchers::WithinRel(y.ratio.si, 1e-12));
            CHECK_THAT(x.efficiency.si, Catch::Matchers::WithinRel(y.efficiency.si, 1e-12));
            CHECK_THAT(x.rated_torque.si, Catch::Matchers::WithinRel(y.rated_torque.si, 1e-4));
            CHECK_THAT(x.peak_torque.si, Catch::Matchers::WithinRel(y.peak_torque.si, 1e-12));
            CHECK_THAT(x.mass.si, Catch::Matchers::WithinRel(y.mass.si, 1e-12));
        }
    };
    same(plain, "UTF-8");
    same("\xEF\xBB\xBF" + plain, "UTF-8");
    // other order and units, semicolons, decimal commas, quotes, a percentage, trade words, CRLF, a title above
    same(
        "Price list 2026;;;;;\r\n\"Weight\n[g]\";Max. acceleration torque T2B [Nm];Gear ratio;Efficiency [%];\"Nominal "
        "torque, T2N [lb·in]\";Part number\r\n"
        "1250;20,0;5;97;110,635;A 5\r\n1500;17,5;10;95;88,508;\"B 10\"\r\n",
        "UTF-8");
    // a line of units under the heading, tabs
    same("Model\ti\tRated torque\tPeak torque\tMass\tEfficiency\n\t\tN·m\tN·m\tkg\t%\nA 5\t5\t12.5\t20\t1.25\t97\nB "
         "10\t10\t10\t17.5\t1.5\t95\n",
        "UTF-8");
    // Windows-1252: the middle dot is one byte
    std::string latin = plain;
    for (std::size_t at; (at = latin.find("\xC2\xB7")) != std::string::npos;) latin.replace(at, 2, "\xB7");
    same(latin, "Windows-1252");
    same(utf16(plain, false, true), "UTF-16LE");
    same(utf16(plain, true, true), "UTF-16BE");
    same(utf16(plain, false, false), "UTF-16LE");
    // cells with units of their own
    same("name|ratio|efficiency|rated torque|peak torque|mass\nA 5|5|97 %|12.5 N·m|20 N·m|1250 g\nB 10|10|95 %|10 "
         "N·m|17.5 N·m|1.5 kg\n",
        "UTF-8");
}

TEST_CASE("what is wrong with a parts list is named by line and column, and the good rows are kept") {
    const std::string head = "name,ratio,rated torque [N·m],peak torque [N·m],type\n";
    const auto one_wrong = [&](const std::string& row, const std::string& words) {
        INFO(row);
        const PartTableRead read = read_text(head + "good,5,10,20,planetary\n" + row + "\nlast,7,10,20,worm\n");
        CHECK(read.parts.gearheads.size() == 2);
        CHECK(read.left_out == 1);
        CHECK_THAT(said(read), Contains("line 3") && Contains(words));
    };
    one_wrong("x,five,10,20,planetary", "column 2, \"ratio\"");
    one_wrong("x,,10,20,planetary", "missing (above");
    one_wrong("x,5,-10,20,planetary", "allowed is above 0");
    one_wrong("x,5,nan,20,planetary", "column 3");
    one_wrong("x,5,inf,20,planetary", "column 3");
    one_wrong("x,5,1e999,20,planetary", "column 3");
    one_wrong("x,5,10 kg,20,planetary", "column 3");
    one_wrong("x,5,10,20,hypoid", "\"gearhead\", \"belt\"");
    one_wrong("x,5,10,20,planetary,8,9", "the heading has 5");
    one_wrong("x,5", "it ends after 2 cells");
    one_wrong("good,5,10,20,planetary", "is the name of two parts, the other stands in line 2");
    one_wrong(",5,10,20,planetary", "it has no name");
    // a contradiction inside a part
    const PartTableRead bent =
        read_text("name,ratio,efficiency,rated torque [N·m],no-load torque [N·m]\nx,5,0.97,10,1\n");
    CHECK(bent.parts.gearheads.empty());
    CHECK_THAT(said(bent), Contains("line 2, column 5") && Contains("all losses together"));
    // a quotation mark that nobody closes takes its own row with it and no other
    std::string open = head + "good,5,10,20,planetary\n\"open,5,10,20,planetary\n";
    for (int i = 0; i < 60; ++i) open += "part " + std::to_string(i) + ",5,10,20,planetary\n";
    const PartTableRead read = read_text(open);
    CHECK(read.parts.gearheads.size() == 61);
    CHECK_THAT(said(read), Contains("line 3") && Contains("quotation mark"));
    // half a line at the very end, and an open mark there
    CHECK(read_text(head + "good,5,10,20,planetary\nhalf,5").parts.gearheads.size() == 1);
    CHECK(read_text(head + "good,5,10,20,planetary\n\"half,5").parts.gearheads.size() == 1);
    // no heading, nothing at all, only a heading
    CHECK_THAT(said(read_text("")), Contains("no line of headings"));
    CHECK_THAT(said(read_text("1,2,3\n4,5,6\n")), Contains("no line of headings"));
    CHECK(read_text(head).rows == 0);
    CHECK_THAT(said(read_text("ratio,rated torque [N·m]\n5,10\n")), Contains("no column is the name"));
    // the first column of words, each another, is taken for the name where no heading says so, and said to be guessed
    const PartTable guessed = looked_at("Typ;Ratio;Rated torque [N·m];Bem\nPX 5;5;10;alt\nPX 7;7;12;alt\n");
    REQUIRE(guessed.columns.size() == 4);
    CHECK(guessed.columns[0].field == "/name");
    CHECK(!guessed.columns[0].sure);
    CHECK(guessed.columns[3].field.empty());
    CHECK(looked_at("Ratio;Rated torque [N·m];Bem\n5;10;alt\n7;12;alt\n").columns[2].field.empty());
    CHECK(looked_at("Ratio;Rated torque [N·m];Hub\n5;10;12 mm\n7;12;14 mm\n").columns[2].field.empty());
}

TEST_CASE("headings without units, or with another dimension, are named and never guessed over") {
    // a number without any unit is not taken for N·m
    const PartTableRead bare = read_text("name,ratio,rated torque\nx,5,10\ny,5,10 N·m\n");
    CHECK(bare.parts.gearheads.size() == 1);
    CHECK_THAT(said(bare), Contains("line 2, column 3") && Contains("without a unit") && Contains("N·m"));
    const PartTableRead other = read_text("name,ratio,rated torque [kg]\nx,5,10\n");
    REQUIRE(other.parts.gearheads.size() == 1);
    CHECK(!other.parts.gearheads[0].rated_torque.given());
    CHECK(!other.parts.gearheads[0].mass.given());
    CHECK_THAT(said(other), Contains("line 1, column 3") && Contains("found \"kg\"") && Contains("N·m"));
    // thousands and decimals, as the file has them
    const auto torque = [](const std::string& cell, const std::string& other_cell, char separator) {
        const std::string s(1, separator);
        const PartTableRead r = read_text("name" + s + "ratio" + s + "rated torque [N·m]\nx" + s + "5" + s + cell +
                                          "\ny" + s + "5" + s + other_cell + "\n");
        return r.parts.gearheads.empty() ? std::nan("") : r.parts.gearheads[0].rated_torque.si;
    };
    CHECK(torque("1.250,5", "2,5", ';') == 1250.5);
    CHECK(torque("1,250", "2,5", ';') == 1.25);
    CHECK(torque("\"1,250.5\"", "2.5", ',') == 1250.5);
    CHECK(torque("\"1,25\"", "\"2,5\"", ',') == 1.25);
    CHECK(torque("1.25", "2.5", '\t') == 1.25);
}

TEST_CASE("kinds of motor and settings of an axis in a parts list") {
    const PartTableRead motors = read_text(
        "name,kind,rotor inertia [kg·cm²],max speed [rpm],torque constant [N·m/A],resistance [Ω],inductance [mH],pole "
        "pairs,rated torque [N·m],rated current [A],holding torque [N·m]\n"
        "S,sine,0.5,5000,0.8,2,8,4,2,2.5,\nB,brushed,0.4,4000,0.1,1,1,,1,10,\nT,sine,0.5,5000,0.8,2,8,4,2,2.5,3\n");
    INFO(said(motors));
    REQUIRE(motors.parts.motors.size() == 2);
    CHECK(motors.parts.motors[0].kind_key() == std::string("sine"));
    CHECK(motors.parts.motors[1].kind_key() == std::string("brushed"));
    CHECK_THAT(said(motors), Contains("line 4, column 11") && Contains("no such field"));
    // the bus belongs to the axis, whatever a list says
    const PartTableRead drives =
        read_text("name,continuous current [A],peak current [A],bus voltage [V]\nD,5,10,560\n", "drive");
    REQUIRE(drives.parts.drives.size() == 1);
    CHECK(drives.parts.drives[0].bus_voltage.text == "320 V");
    CHECK_THAT(said(drives), Contains("column 4") && Contains("ignored"));
}

TEST_CASE("a list with the symbols of datasheets, turns a minute and decimal commas is taken as it is") {
    const std::string head = "Type; Ratio; T2N [Nm]; T2B [Nm]; n1 max [1/min]; backlash [arcmin]; J1 [kgcm²]; price\n";
    const std::string rows = "Own 60-5; 5; 25,5; 50; 6000; 8; 0,135; 310\nOwn 60-10; 10; 22; 45; 5500; 8; 0,11; 320\n";
    const PartTableRead read = read_text(head + rows);
    INFO(said(read));
    CHECK(read.problems.empty());
    REQUIRE(read.parts.gearheads.size() == 2);
    const Stage& own = read.parts.gearheads[0];
    CHECK(own.name == "Own 60-5");
    CHECK(own.rated_torque.si == Approx(25.5));
    CHECK(own.peak_torque.si == Approx(50));
    CHECK(own.top_speed.text == "6000 rpm");
    CHECK(own.backlash.si == Approx(8 * std::numbers::pi / 180 / 60));
    CHECK(own.inertia.si == Approx(0.135e-4));
    CHECK(own.price.si == Approx(310));
    // where the words below are those of the choice the column stays one
    const PartTable kinds = looked_at("name;Type;Ratio;T2N [Nm]\nA;planetary;5;25\nB;worm;10;22\n");
    CHECK(kinds.columns[0].field == "/name");
    CHECK(kinds.columns[1].field != "/name");
    for (const char* unit : {"1/min", "min⁻¹", "min^-1", "U/min", "r/min"}) {
        INFO(unit);
        REQUIRE(find_unit(unit, Kind::angular_speed));
        CHECK(find_unit(unit, Kind::angular_speed)->symbol == "rpm");
    }
}

TEST_CASE("parts written as CSV are read again as they were") {
    for (const PartKind& kind : part_kinds()) {
        INFO(kind.key);
        if (kind.key == std::string("motor")) continue; // their curves are lists
        auto read = read_any_parts(file_text(std::string("data/catalogue/") + kind.list + ".csv"), "shipped", "");
        REQUIRE(read);
        std::istringstream in(part_table_csv(kind, read->parts));
        const PartTable table = look_at_part_table(in, kind.key);
        in.clear();
        in.seekg(0);
        const PartTableRead again = read_part_table(in, table, "", "");
        INFO(said(again));
        REQUIRE(kind.own(const_cast<PartLists&>(again.parts)).size() == kind.own(read->parts).size());
        for (std::size_t i = 0; i < kind.own(read->parts).size(); ++i) {
            const FieldRefs x = walk(kind.own(read->parts).entry(i)),
                            y = walk(kind.own(const_cast<PartLists&>(again.parts)).entry(i));
            for (std::size_t f = 0; f < x.size(); ++f)
                if (x[f].quantity && !is_placed(kind, x[f].path.substr(1)))
                    CHECK(x[f].quantity->text == y[f].quantity->text);
        }
    }
}

TEST_CASE("cells that a spreadsheet would take for a formula carry an apostrophe, which is no part of them") {
    const std::vector<std::string> names{"=1+1", "+cmd", "-soft, 2", "@home", "'=x", "plain", "'quoted'", "-5"};
    PartLists shelf;
    for (const std::string& name : names) {
        Coupling c;
        c.name = name;
        c.rated_torque = Quantity<Kind::torque>("4 N·m");
        shelf.couplings.push_back(c);
    }
    const PartKind& kind = part_kind("coupling");
    const std::string text = part_table_csv(kind, shelf);
    CHECK_THAT(text, Contains("\r\n'=1+1,") && Contains("\r\n'+cmd,") && Contains("\r\n\"'-soft, 2\",") &&
                         Contains("\r\n'@home,") && Contains("\r\n''=x,") && Contains("\r\nplain,"));
    std::istringstream in(text);
    const PartTable table = look_at_part_table(in, kind.key);
    in.clear();
    in.seekg(0);
    const PartTableRead again = read_part_table(in, table, "", "");
    INFO(said(again));
    REQUIRE(again.parts.couplings.size() == names.size());
    for (std::size_t i = 0; i < names.size(); ++i) CHECK(again.parts.couplings[i].name == names[i]);
}

TEST_CASE("a part takes the place of another, and what the axis sets stays") {
    Machine m = demo();
    Axis& axis = m.axes[0];
    axis.coupling.driven_shaft = Quantity<Kind::length>("12 mm");
    axis.coupling.place = CouplingPlace::mechanism;
    PartLists shelf;
    Coupling c;
    c.name = "C";
    c.rated_torque = Quantity<Kind::torque>("40 N·m");
    shelf.couplings.push_back(c);
    const PartKind& kind = part_kind("coupling");
    kind.put(axis, 0, shelf, 0);
    CHECK(axis.coupling.name == "C");
    CHECK(axis.coupling.rated_torque.si == 40);
    CHECK(axis.coupling.driven_shaft.si == 0.012);
    CHECK(axis.coupling.place == CouplingPlace::mechanism);
    CHECK(part_differences(kind, axis, 0, shelf, 0).empty());
    // the catalogue changes
    shelf.couplings[0].rated_torque = Quantity<Kind::torque>("35 N·m");
    shelf.couplings[0].top_speed = Quantity<Kind::angular_speed>("9000 rpm");
    const auto differences = part_differences(kind, axis, 0, shelf, 0);
    REQUIRE(differences.size() == 2);
    CHECK(differences[0].field == "Allowable torque");
    CHECK(differences[0].here == "40 N·m");
    CHECK(differences[0].there == "35 N·m");
    CHECK(differences[1].here == "nothing");
    CHECK(axis.coupling.rated_torque.si == 40);
    // kept, it leaves what the axis sets behind
    PartLists kept;
    kind.keep_chosen(kept, axis, 0);
    CHECK(!kept.couplings[0].driven_shaft.given());
    CHECK(kept.couplings[0].place == Coupling{}.place);
    kind.remove(axis, 0);
    CHECK(!axis.coupling.there());
    CHECK(axis.coupling.driven_shaft.si == 0.012);
    // two of one name, and a missing price that is counted apart
    shelf.couplings.push_back(shelf.couplings[0]);
    std::string all;
    for (const Problem& p : check_parts(shelf)) all += to_text(p);
    CHECK_THAT(all, Contains("is the name of two parts"));
    const auto counts = count_parts(shelf);
    REQUIRE(counts.size() == 1);
    CHECK(counts[0].parts == 2);
    CHECK(counts[0].without_price == 2);
}

TEST_CASE("each candidate is what the axis itself would say with it") {
    Machine m = demo();
    // sound, without a payload, with one out of its range
    for (const int state : {0, 1, 2}) {
        if (state == 1) m.axes[0].load.payload = {};
        if (state == 2) m.axes[0].load.payload = Quantity<Kind::mass>("-5 kg");
        for (const auto& [key, axis] : {std::pair("gearhead", std::size_t{0}), std::pair("gearhead", std::size_t{1}),
                 std::pair("coupling", std::size_t{0}), std::pair("brake", std::size_t{0}),
                 std::pair("drive", std::size_t{0})}) {
            INFO(key << " on axis " << axis << ", state " << state);
            const PartKind& kind = part_kind(key);
            auto read = read_any_parts(file_text(std::string("data/catalogue/") + kind.list + ".csv"), "s", "");
            REQUIRE(read);
            // parts that are not sound themselves
            read->parts.gearheads.resize(std::max<std::size_t>(read->parts.gearheads.size(), 6));
            read->parts.gearheads[4].efficiency = Quantity<Kind::number>("500 %");
            read->parts.gearheads[5].ratio = {};
            read->parts.couplings.resize(std::max<std::size_t>(read->parts.couplings.size(), 6));
            read->parts.couplings[5].inertia = Quantity<Kind::inertia>("-1 kg·cm²");
            std::vector<std::size_t> which(std::min<std::size_t>(kind.own(read->parts).size(), 40));
            std::iota(which.begin(), which.end(), std::size_t{0});
            const auto judged = judge_parts(m, axis, kind, 0, read->parts, which);
            REQUIRE(judged.size() == which.size());
            for (std::size_t k = 0; k < which.size(); ++k) {
                INFO(which[k]);
                Machine with = m;
                kind.put(with.axes[axis], 0, read->parts, which[k]);
                Assessment a = assess(with, axis);
                std::erase_if(a.limits, [&](const Limit& l) { return !tells_of(kind, l.key); });
                if (a.limits.empty()) {
                    CHECK(judged[k].key.empty());
                    CHECK(judged[k].state == LimitState::cannot_say);
                    continue;
                }
                const Limit& worst = a.limits[*deciding(a.limits)];
                CHECK(judged[k].key == worst.key);
                CHECK(judged[k].state == (worst.accepted ? LimitState::fits : worst.state));
                // over if one is, else unknown if one is that nobody accepts, else tight, else fits
                const auto any = [&](LimitState asked) {
                    return std::any_of(a.limits.begin(), a.limits.end(),
                        [&](const Limit& l) { return l.state == asked && !l.accepted; });
                };
                CHECK(judged[k].state == (any(LimitState::over)            ? LimitState::over
                                             : any(LimitState::cannot_say) ? LimitState::cannot_say
                                             : any(LimitState::tight)      ? LimitState::tight
                                                                           : LimitState::fits));
                if (worst.yes_or_no || std::isnan(worst.utilisation()))
                    CHECK(std::isnan(judged[k].tightest)); // of a yes or no there is no share
                else
                    CHECK(judged[k].tightest == worst.utilisation());
            }
        }
    }
}

TEST_CASE("the ratio curve: every point is an assessment, and its best for pure inertia is the textbook's") {
    Machine m = demo();
    const Axis table = m.axes[2]; // the turntable
    m.axes.resize(1);
    m.axes[0] = table;
    m.axes[0].stages.assign(1, Stage{});
    Stage& s = m.axes[0].stages[0];
    s.ratio = Quantity<Kind::number>("5");
    s.efficiency = Quantity<Kind::number>("1");
    const RatioPoint p = at_ratio(m, 0, 0, 7.5);
    s.ratio = Quantity<Kind::number>("7.5");
    const Assessment a = assess(m, 0);
    CHECK_THAT(p.peak_torque, Catch::Matchers::WithinRel(std::abs(a.figure("demand.peak_torque")->si), 1e-12));
    CHECK_THAT(p.motor_speed, Catch::Matchers::WithinRel(a.demand->peak_speed, 1e-12));
    CHECK_THAT(p.inertia_ratio, Catch::Matchers::WithinRel(a.inertia->ratio(), 1e-12));
    const RatioCurve c = ratio_curve(m, 0, 0, 0.5, 60, 40);
    REQUIRE(c.points.size() == 40);
    CHECK(c.present == 7.5);
    // textbook identity: where inertia is all there is, peak torque is least where the reflected load inertia is the
    // rotor's, i = √(J_L/J_M)
    Machine pure = m;
    Axis& axis = pure.axes[0];
    RotaryTable only;
    only.table_inertia = Quantity<Kind::inertia>("0.05 kg·m²");
    axis.mechanism = only;
    axis.load = Load{};
    axis.load.payload = Quantity<Kind::mass>("0 kg");
    axis.bodies.clear();
    axis.coupling = Coupling{};
    const auto least = [&](const Machine& of) {
        const RatioCurve curve = ratio_curve(of, 0, 0, 1, 200, 400);
        return *std::min_element(curve.points.begin(), curve.points.end(),
            [](const RatioPoint& x, const RatioPoint& y) { return x.peak_torque < y.peak_torque; });
    };
    const RatioPoint best = least(pure);
    CHECK_THAT(best.inertia_ratio, Catch::Matchers::WithinRel(1.0, 0.05));
    CHECK(ratio_curve(m, 0, 0, 5, 5, 10).points.empty());
    CHECK(ratio_curve(m, 0, 0, 1, 9, 10, [] { return false; }).points.empty());
}

TEST_CASE("a bore and a size of hub speak against no motor and no gearhead, and every limit has its part") {
    for (const char* key : {"coupling_bores", "coupling_range"})
        for (const char* kind : {"motor", "gearhead", "brake", "drive"}) CHECK(!tells_of(part_kind(kind), key));
    CHECK(tells_of(part_kind("coupling"), "coupling_range"));
    CHECK(part_of_limit("drive_dial") == "drive");
    CHECK(part_of_limit("continuous_loss") == "motor");
    // an axis whose only fault is a coupling too small in the bore: its motor is suitable all the same
    Machine m = demo();
    m.axes[0].coupling.largest_bore = Quantity<Kind::length>("10 mm");
    REQUIRE(assess(m, 0).limit("coupling_range")->state == LimitState::over);
    const auto judged = judge_motors(m, 0, {&m.axes[0].motor});
    CHECK(carries(judged[0].state));
}

TEST_CASE("the front of a map has all that no other betters, and nothing else") {
    CHECK(pareto_front({}, {}).empty());
    CHECK(pareto_front({1, 2, std::nan(""), 0}, {2, 1, 0, std::nan("")}) == std::vector<std::size_t>{0, 1});
    CHECK(pareto_front({1, 1, 1}, {2, 2, 3}) == std::vector<std::size_t>{0}); // of equal ones the first
    CHECK(rc::check("against a look at every pair", [](std::vector<std::pair<std::uint8_t, std::uint8_t>> points) {
        std::vector<double> x, y;
        for (const auto& [a, b] : points) {
            x.push_back(a % 16);
            y.push_back(b % 16);
        }
        const std::vector<std::size_t> front = pareto_front(x, y);
        std::set<std::pair<double, double>> best, found;
        for (std::size_t i = 0; i < x.size(); ++i) {
            bool bettered = false;
            for (std::size_t k = 0; k < x.size(); ++k)
                bettered = bettered || (x[k] <= x[i] && y[k] <= y[i] && (x[k] < x[i] || y[k] < y[i]));
            if (!bettered) best.insert({x[i], y[i]});
        }
        for (const std::size_t i : front) found.insert({x[i], y[i]});
        RC_ASSERT(found == best);
        RC_ASSERT(found.size() == front.size());
    }));
}

TEST_CASE("a newer edition of a list takes the place of the older, and of nothing else") {
    for (const PartKind& kind : part_kinds()) {
        INFO(kind.key);
        const auto part = [&](PartLists& in, const char* name, const char* file, const char* price) {
            kind.own(in).insert(kind.own(in).size());
            const std::size_t i = kind.own(in).size() - 1;
            kind.name(in, i) = name;
            kind.provenance(in, i).file = file;
            for (FieldRef& f : walk(kind.own(in).shared_entry(i)))
                if (f.path == "/price") REQUIRE(!assign(f, price));
        };
        PartLists kept, list;
        part(kept, "A", "list.csv", "100");
        part(kept, "B", "list.csv", "200");
        part(kept, "A 2", "other.csv", "300");
        part(kept, "C", "", "400"); // typed by hand
        part(list, "A", "list.csv", "110");
        part(list, "A", "list.csv", "111"); // twice in one list: two parts
        part(list, "C", "list.csv", "410");
        CHECK(keep_all(kind, kept, list) == 1);
        std::map<std::string, double> prices;
        for (std::size_t i = 0; i < kind.own(kept).size(); ++i) {
            INFO(kind.name(kept, i));
            CHECK(prices.emplace(kind.name(kept, i), kind.price(kept, i).si).second);
        }
        CHECK(prices.size() == 6);
        CHECK(prices["A"] == 110);
        CHECK(prices["B"] == 200);
        CHECK(prices["C"] == 400);
        // the same list again adds nothing
        CHECK(keep_all(kind, kept, list) == 3);
        CHECK(kind.own(kept).size() == 6);
    }
}
