// What is no regular file, or too large, is refused by name before it is read, and never waited for.
#include "app/regular_file.h"
#include "tests/app/window.h"

#include <QFile>
#include <filesystem>
#include <fstream>
#include <regex>
#include <set>
#include <sstream>
#include <sys/stat.h>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

struct Odd {
    QString file, words;
};

// A pipe without a writer, an endless device, a folder, and a file of 3 GB that takes no room on the disk.
std::vector<Odd> odd_files(const QTemporaryDir& folder) {
    const QString pipe = folder.filePath(QStringLiteral("pipe.fulmox"));
    REQUIRE(::mkfifo(QFile::encodeName(pipe).constData(), 0600) == 0);
    const QString huge = folder.filePath(QStringLiteral("huge.fulmox"));
    std::ofstream(huge.toStdString()) << "{";
    std::filesystem::resize_file(huge.toStdString(), 3ULL << 30);
    return {{pipe, QStringLiteral("pipe")}, {QStringLiteral("/dev/zero"), QStringLiteral("device")},
        {folder.path(), QStringLiteral("folder")}, {huge, QStringLiteral("3072 MB")}};
}

} // namespace

TEST_CASE("what is no regular file is refused by name") {
    QTemporaryDir folder;
    for (const Odd& odd : odd_files(folder)) {
        INFO(odd.file.toStdString());
        const auto read = read_regular(odd.file);
        REQUIRE(!read);
        INFO(read.error().toStdString());
        CHECK(read.error().contains(odd.file));
        CHECK(read.error().contains(odd.words));
    }
    CHECK(in_the_way_of(QStringLiteral("/dev/null")).contains(QStringLiteral("device")));
    CHECK(in_the_way_of(folder.filePath(QStringLiteral("new.csv"))).isEmpty());
}

TEST_CASE("the window opens none of them, keeps its project and says why") {
    Window w;
    const std::string before = w.document().axis().name;
    QTemporaryDir folder;
    for (const Odd& odd : odd_files(folder)) {
        INFO(odd.file.toStdString());
        CHECK(!w.window.open_file(odd.file));
        CHECK(w.document().axis().name == before);
        if (odd.words.contains(QStringLiteral("MB"))) continue; // a file may be replaced
        CHECK(!w.window.save_to(odd.file));
        CHECK(!w.window.save_report(odd.file));
    }
    struct stat pipe {};
    REQUIRE(::stat(QFile::encodeName(folder.filePath(QStringLiteral("pipe.fulmox"))).constData(), &pipe) == 0);
    CHECK(S_ISFIFO(pipe.st_mode)); // nothing has taken its place
}

TEST_CASE("files that a person names are read in one place") {
    // what may open files itself: the one reader, files within the program, a pasted table, notes of the storage, and
    // parts lists, which are gone through as a stream after their size was asked for
    const std::set<std::string> allowed{"regular_file.cpp", "guide.cpp", "shipped_motors.cpp", "part_shelf.cpp",
        "shelf_view.cpp", "import_parts.cpp", "storage.cpp"};
    const std::regex opens(R"(\bQFile [a-z_]+\(|\bstd::ifstream\b|\bfopen\()");
    std::set<std::string> found;
    for (const char* room : {"app", "core"})
        for (const auto& entry :
            std::filesystem::recursive_directory_iterator(FULMOX_SOURCE_DIR "/" + std::string(room))) {
            if (entry.path().extension() != ".cpp" && entry.path().extension() != ".h") continue;
            std::ifstream in(entry.path());
            std::stringstream text;
            text << in.rdbuf();
            const std::string all = text.str();
            if (std::regex_search(all, opens)) found.insert(entry.path().filename());
        }
    for (const std::string& file : found) {
        INFO(file);
        CHECK(allowed.count(file) == 1);
    }
    CHECK(found.count("regular_file.cpp") == 1);
}
