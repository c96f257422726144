// Every kind of part has its place in an axis, in a project and in a catalogue.
#include "core/files/project.h"
#include "core/model/part.h"
#include "core/model/walk.h"
#include "tests/demo.h"

#include <set>

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
        const auto chosen = find_field(m, std::string("/axes/0/") + kind.key);
        REQUIRE(chosen);
        CHECK(chosen->group_spec.label == std::string(kind.label));
        const auto own = find_field(m, std::string("/") + kind.list);
        REQUIRE(own);
        REQUIRE(own->list);
        const std::size_t before = kind.own(m).size();
        kind.own(m).insert(before);
        CHECK(own->list.size() == before + 1);
        // the catalogue that comes with the program
        Machine shelf;
        const std::string file = file_text(std::string("data/catalogue/") + kind.list + ".json");
        const auto read = read_catalogue(file, kind, kind.own(shelf));
        REQUIRE(read);
        CHECK(!read->name.empty());
        CHECK(read->problems.empty());
        REQUIRE(kind.own(shelf).size() > 20);
        // a part that cannot be is named by its line, and the others are kept
        const std::size_t all = kind.own(shelf).size();
        std::string bent = file;
        const std::size_t third = [&] {
            std::size_t at = bent.find(std::string("\"") + kind.list + "\"");
            for (int i = 0; i < 3; ++i) at = bent.find("\"name\"", at + 1);
            return bent.rfind('{', at);
        }();
        bent.insert(third, "5, ");
        Machine other;
        const auto again = read_catalogue(bent, kind, kind.own(other));
        REQUIRE(again);
        CHECK(kind.own(other).size() == all + 1);
        bool named = false;
        for (const Problem& p : again->problems)
            named = named || (p.path == std::string("/") + kind.list + "/2" && p.line > 2);
        CHECK(named);
    }
    CHECK_THROWS_AS(part_kind("wheel"), std::out_of_range);
}
