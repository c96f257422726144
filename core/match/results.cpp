#include "core/match/results.h"

#include "core/match/stepping.h"
#include "core/quantity/not_finite.h"

#include <algorithm>

namespace fulmox {

std::span<const Computed<std::vector<StageUse>>::Part> parts_of_stage_use() {
    using Uses = std::vector<StageUse>;
    static constexpr Computed<Uses>::Part parts[]{
        {need::load,
            [](Uses& all) {
                for (StageUse& u : all) u.equivalent = u.worn = u.turned = u.rms = u.peak = u.emergency = no_number;
            }},
        {need::stop,
            [](Uses& all) {
                for (StageUse& u : all) u.emergency = no_number;
            }},
    };
    return parts;
}

std::span<const Computed<InertiaStatement>::Part> parts_of_inertia() {
    static constexpr Computed<InertiaStatement>::Part parts[]{
        {need::rotor,
            [](InertiaStatement& i) {
                std::erase_if(i.shares, [](const InertiaShare& s) { return s.rotor_side; });
                i.rotor = 0;
            }},
    };
    return parts;
}

need::Bits screw_life_also(const Axis& axis) {
    const auto* s = std::get_if<Screw>(&axis.mechanism);
    return s && !s->spectrum.empty() ? need::travel : need::load;
}

need::Bits position_error_also(const Axis& axis) {
    return open_loop(axis) ? need::demand | need::current | need::temperatures : 0;
}

} // namespace fulmox
