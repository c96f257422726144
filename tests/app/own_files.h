// Files and libraries of the user's own, for tests of the window.
#pragma once

#include "app/library.h"
#include "app/part_shelf.h"
#include "tests/catch.h"

#include <QDir>
#include <QFile>
#include <string>

namespace fulmox::testing {

inline QByteArray bytes_in(const QString& file) {
    QFile f(file);
    REQUIRE(f.open(QIODevice::ReadOnly));
    return f.readAll();
}

inline void put(const QString& file, const QByteArray& bytes) {
    QFile f(file);
    REQUIRE(f.open(QIODevice::WriteOnly));
    REQUIRE(f.write(bytes) == bytes.size());
}

/// While it lives the user has no library of parts or motors but what the test makes.
struct NoLibrary {
    NoLibrary() { clear(); }
    ~NoLibrary() { clear(); }
    static void clear() {
        QDir(app::part_shelf().folder()).removeRecursively();
        app::part_shelf().reload();
        QFile::remove(app::motor_library().file());
        app::motor_library().reload();
    }
};

/// So many gearheads of 6 : 1, "Stage 0" and on.
inline PartLists gearheads(int count) {
    PartLists parts;
    for (int i = 0; i < count; ++i) {
        Stage s;
        s.name = "Stage " + std::to_string(i);
        s.ratio = Quantity<Kind::number>("6");
        parts.gearheads.push_back(s);
    }
    return parts;
}

} // namespace fulmox::testing
