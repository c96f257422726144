// Words of the core for Qt.
#pragma once

#include "core/quantity/unit.h"

#include <QString>
#include <string>

namespace fulmox::app {

inline QString qs(const std::string& s) { return QString::fromStdString(s); }
inline QString symbol(const Unit& u) {
    return QString::fromUtf8(u.symbol.data(), static_cast<qsizetype>(u.symbol.size()));
}

} // namespace fulmox::app
