// Any bytes give words on what is wrong or rows: curves, demands along a line and about a shaft, sheets; what a motor
// that could be read does on its own falls over nothing.
#include "core/files/curve_text.h"
#include "core/files/demand_text.h"
#include "core/files/project.h"
#include "core/motor/picture_reading.h"
#include "core/report/motor_report.h"

#include <cstdlib>

using namespace fulmox;

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
    const std::string_view text(reinterpret_cast<const char*>(data), size);
    static_cast<void>(read_curve_text(text));
    for (const bool along : {false, true}) static_cast<void>(read_demand_text(text, along));
    const auto sheets = read_sheets(text);
    if (!sheets && sheets.error().message.empty()) std::abort();
    if (!sheets) return 0;
    static_cast<void>(sheets_json(sheets->motors, sheets->problems));
    for (const Motor& m : sheets->motors)
        for (const CurvePicture& p : m.pictures)
            for (const PictureCurve& c : p.curves) static_cast<void>(pick_curve(p, c));
    return 0;
}
