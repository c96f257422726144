// Losses of a mechanism that has no formula of its own for them.
#pragma once

#include "core/model/field.h"

namespace fulmox {

struct Losses {
    Quantity<Kind::number> efficiency{"0.95"};
    Quantity<Kind::number> efficiency_back;
    Quantity<Kind::torque> drag;
    Extra extra;
    bool operator==(const Losses&) const = default;

    void describe(FieldVisitor& v);
};

} // namespace fulmox
