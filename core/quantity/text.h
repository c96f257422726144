// A sentence with quantities in it, printed in the units of whoever shows it.
#pragma once

#include "core/quantity/kind.h"
#include "core/quantity/unit.h"

#include <string>
#include <utility>
#include <vector>

namespace fulmox {

class Text {
  public:
    Text() = default;
    Text(std::string words) {
        if (!words.empty()) pieces_.push_back({std::move(words)});
    }
    Text(const char* words) : Text(std::string(words)) {}

    /// A value in the display unit of its kind. `inch_pound` names the unit of the inch-pound system and `si` that of
    /// the others where the display unit reads badly.
    static Text of(double value, Kind kind, int digits = 4, const char* si = "", const char* inch_pound = "") {
        Text t;
        t.pieces_.push_back({{}, true, value, kind, digits, si, inch_pound});
        return t;
    }

    bool empty() const { return pieces_.empty(); }
    std::string in(UnitSystem system) const;

    Text& operator+=(const Text& more) {
        pieces_.insert(pieces_.end(), more.pieces_.begin(), more.pieces_.end());
        return *this;
    }
    friend Text operator+(Text a, const Text& b) { return std::move(a += b); }
    bool operator==(const Text&) const = default;

  private:
    struct Piece {
        std::string words;
        bool quantity = false;
        double value = 0; ///< SI
        Kind kind = Kind::number;
        int digits = 4;
        const char* si = "";
        const char* inch_pound = "";
        bool operator==(const Piece&) const = default;
    };
    std::vector<Piece> pieces_;
};

} // namespace fulmox
