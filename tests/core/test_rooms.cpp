// The rooms of the house: who may include whom, and no Qt in the core.
#include "tests/catch.h"
#include <filesystem>
#include <fstream>
#include <map>
#include <regex>
#include <set>
#include <string>
#include <vector>

namespace fs = std::filesystem;

namespace {

const std::vector<std::string> rooms{"quantity", "model", "load", "motion", "demand", "motor", "drivetrain", "power",
    "match", "behaviour", "bench", "report", "files"};
const fs::path root = FULMOX_SOURCE_DIR;

std::vector<fs::path> sources(const fs::path& folder) {
    std::vector<fs::path> out;
    for (const auto& e : fs::recursive_directory_iterator(folder))
        if (e.path().extension() == ".h" || e.path().extension() == ".cpp") out.push_back(e.path());
    return out;
}

std::vector<std::string> includes(const fs::path& file) {
    std::vector<std::string> out;
    std::ifstream in(file);
    static const std::regex pattern(R"re(^\s*#\s*include\s*[<"]([^>"]+)[>"])re");
    std::smatch m;
    for (std::string line; std::getline(in, line);)
        if (std::regex_search(line, m, pattern)) out.push_back(m[1]);
    return out;
}

// Rule: a room may include itself and rooms above it. Returns what breaks it, empty if nothing does.
std::string broken_rule(const std::string& room, const std::string& include) {
    static const std::regex qt(R"(^(Q[A-Z]\w*|Qt\w+/.*|q[a-z]+\.h|qcustomplot\.h)$)");
    if (std::regex_match(include, qt)) return "includes interface code";
    if (include.starts_with("app/") || include.starts_with("cli/") || include.starts_with("tests/"))
        return "includes a face";
    if (!include.starts_with("core/")) return "";
    const std::string other = include.substr(5, include.find('/', 5) - 5);
    const auto own_place = std::find(rooms.begin(), rooms.end(), room);
    const auto other_place = std::find(rooms.begin(), rooms.end(), other);
    if (other_place == rooms.end()) return "includes an unknown room";
    return other_place > own_place ? "includes a room below it" : "";
}

} // namespace

TEST_CASE("a room includes only rooms above it, and the core no Qt") {
    int files = 0;
    for (const fs::path& f : sources(root / "core")) {
        const std::string room = fs::relative(f, root / "core").begin()->string();
        INFO(f.string());
        CHECK(std::find(rooms.begin(), rooms.end(), room) != rooms.end());
        for (const std::string& i : includes(f)) {
            INFO(i);
            CHECK(broken_rule(room, i).empty());
        }
        ++files;
    }
    CHECK(files > 30);
}

TEST_CASE("the rule itself sees what it should see") {
    CHECK(broken_rule("load", "core/demand/demand.h") == "includes a room below it");
    CHECK(broken_rule("demand", "core/load/screw.h").empty());
    CHECK(broken_rule("quantity", "QString") == "includes interface code");
    CHECK(broken_rule("quantity", "QtWidgets/QLabel") == "includes interface code");
    CHECK(broken_rule("files", "app/document.h") == "includes a face");
}

TEST_CASE("application and command line do not include each other") {
    for (const auto& [own, other] : {std::pair("app", "cli/"), std::pair("cli", "app/")})
        for (const fs::path& f : sources(root / own))
            for (const std::string& i : includes(f)) {
                INFO(f.string() << " " << i);
                CHECK(!i.starts_with(other));
            }
}

namespace {

// Folder of a file of the application; a file outside the folders stands for itself with its parts: "main_window".
std::string app_room(const std::string& place) {
    if (const auto folder = place.find('/'); folder != std::string::npos) return place.substr(0, folder);
    std::string stem = place.substr(0, place.rfind('.'));
    if (stem.starts_with("main_window_")) stem = "main_window";
    return stem;
}

// A way that leads from a room back to it, or nothing.
std::string cycle_from(const std::string& room, const std::map<std::string, std::set<std::string>>& sees) {
    std::map<std::string, std::string> came;
    std::vector<std::string> ahead{room};
    while (!ahead.empty()) {
        const std::string at = ahead.back();
        ahead.pop_back();
        const auto next = sees.find(at);
        if (next == sees.end()) continue;
        for (const std::string& to : next->second) {
            if (to == room) {
                std::string way = to;
                for (std::string back = at; back != room; back = came[back]) way = back + " > " + way;
                return room + " > " + way;
            }
            if (came.emplace(to, at).second) ahead.push_back(to);
        }
    }
    return "";
}

} // namespace

TEST_CASE("the folders of the application include each other without a cycle") {
    std::map<std::string, std::set<std::string>> sees;
    for (const fs::path& f : sources(root / "app")) {
        const std::string own = app_room(fs::relative(f, root / "app").generic_string());
        for (const std::string& i : includes(f))
            if (i.starts_with("app/"))
                if (const std::string other = app_room(i.substr(4)); other != own) sees[own].insert(other);
    }
    for (const char* folder : {"bricks", "forms", "parts", "picture", "results", "plots", "pages", "schematic"}) {
        INFO(folder);
        CHECK(sees.count(folder));
    }
    for (const auto& [room, others] : sees) {
        INFO(room);
        CHECK(cycle_from(room, sees) == "");
    }
    // and the search sees one
    CHECK(cycle_from("a", {{"a", {"b"}}, {"b", {"c"}}, {"c", {"a", "d"}}}) == "a > b > c > a");
    CHECK(cycle_from("d", {{"a", {"b"}}, {"b", {"a"}}, {"d", {"a"}}}) == "");
}

TEST_CASE("every source file is built") {
    for (const char* part : {"core", "app", "tests"}) {
        std::string lists;
        for (const char* list : {"CMakeLists.txt", "fuzz/CMakeLists.txt"}) {
            std::ifstream in(root / part / list);
            lists += std::string(std::istreambuf_iterator<char>(in), {});
        }
        for (const fs::path& f : sources(root / part)) {
            if (f.extension() != ".cpp" || (std::string(part) == "app" && f.filename() == "main.cpp")) continue;
            INFO(f.string());
            CHECK(lists.find(f.filename().string()) != std::string::npos);
        }
    }
}
