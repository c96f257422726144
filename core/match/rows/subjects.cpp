#include "core/match/rows/subjects.h"

namespace fulmox {

std::vector<Rows> all_rows() {
    return {motion_rows(), load_rows(), demand_rows(), motor_rows(), stepper_rows(), heat_rows(), stage_rows(),
        coupling_rows(), brake_rows(), drive_rows(), precision_rows(), screw_rows()};
}

} // namespace fulmox
