// Any bytes give an error that names its line, or a motion that joins up and keeps to the limits of the axes.
#include "core/motion/gcode.h"
#include "core/motion/trace.h"

#include <algorithm>
#include <cmath>
#include <cstdlib>

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
    using namespace fulmox;
    const std::string_view text(reinterpret_cast<const char*>(data), size);
    const auto program = read_gcode(text);
    if (!program) {
        const int lines = 1 + static_cast<int>(std::ranges::count(text, '\n'));
        if (program.error().message.empty() || program.error().line > lines) std::abort();
        return 0;
    }
    // arcs of many turns and dwells of days are the business of the planner's caller
    double turns = 0;
    for (const GcodeMove& m : program->moves) turns += std::abs(m.sweep);
    if (program->moves.size() > 2000 || turns > 2000) return 0;
    GcodeOptions options;
    const auto plan = plan_gcode(*program, options);
    if (!plan) {
        if (plan.error().message.empty()) std::abort();
        return 0;
    }
    if (!std::isfinite(plan->duration) || plan->duration < 0) std::abort();
    for (std::size_t a = 0; a < gcode_axes; ++a) {
        const Samples& k = plan->knots[a];
        for (std::size_t i = 0; i < k.rows(); ++i) {
            for (std::size_t c = 0; c < 4; ++c)
                if (!std::isfinite(k.at(i, c))) std::abort();
            if (i > 0 && k.at(i, 0) < k.at(i - 1, 0)) std::abort();
            if (std::abs(k.at(i, 2)) > options.limits[a].speed * (1 + 1e-6)) std::abort();
        }
    }
    return 0;
}
