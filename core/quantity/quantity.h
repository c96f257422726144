// A quantity as an input: its SI value, and exactly what the user wrote.
#pragma once

#include "core/quantity/expression.h"

#include <limits>
#include <string>

namespace fulmox {

/// Where an input comes from. Assumed until somebody says otherwise.
enum class InputSource { assumed, datasheet, calculated, measured };

/// The part of a quantity that does not depend on its kind, for forms and files.
struct QuantityBase {
    double si = std::numeric_limits<double>::quiet_NaN(); ///< NaN: not given, or not readable
    double tolerance = 0;                                 ///< half width, SI
    std::string text;                                     ///< as the user wrote it; empty: not given
    const Unit* unit = nullptr;                           ///< the user's own unit
    InputSource standing = InputSource::assumed;
    std::string note; ///< who said so

    bool given() const { return si == si; }
    bool operator==(const QuantityBase& o) const {
        return text == o.text && (si == o.si || (!given() && !o.given())) && tolerance == o.tolerance &&
               standing == o.standing && note == o.note;
    }
};

/// An input of one kind. Quantities of different kinds do not assign to one another.
template <Kind K> struct Quantity : QuantityBase {
    static constexpr Kind kind = K;

    Quantity() = default;
    /// For data in code and tests. A text that cannot be read leaves the quantity not given.
    explicit Quantity(std::string_view written, InputSource from = InputSource::assumed) {
        text = written;
        standing = from;
        if (const auto r = read_quantity(written, K, si_unit(K))) {
            si = r->si;
            tolerance = r->tolerance;
            unit = r->unit;
        }
    }
    double value_or(double otherwise) const { return given() ? si : otherwise; }
    bool operator==(const Quantity& o) const { return QuantityBase::operator==(o); }
};

} // namespace fulmox
