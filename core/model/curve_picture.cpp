#include "core/model/curve_picture.h"

#include "core/model/visitor.h"

#include <algorithm>

namespace fulmox {

namespace {

void describe_place(FieldVisitor& v, Quantity<Kind::number>& column, Quantity<Kind::number>& row) {
    QuantitySpec spec{.key = "column",
        .label = "Column",
        .unit = "1",
        .range = {-1e5, 1e5},
        .help = "Pixels from the left edge of the picture; the middle of the first is 0.5.",
        .required = false,
        .if_empty = left_empty::not_asked("not placed"),
        .rare = true};
    v.quantity(column, spec);
    spec.key = "row";
    spec.label = "Row";
    spec.help = "Pixels from the upper edge of the picture.";
    v.quantity(row, spec);
}

} // namespace

bool is_base64(std::string_view text) {
    if (text.size() % 4 != 0) return false;
    for (int padding = 0; padding < 2 && text.ends_with('='); ++padding) text.remove_suffix(1);
    return std::all_of(text.begin(), text.end(), [](char c) {
        return (c >= 'A' && c <= 'Z') || (c >= 'a' && c <= 'z') || (c >= '0' && c <= '9') || c == '+' || c == '/';
    });
}

void SpeedMark::describe(FieldVisitor& v) {
    describe_place(v, column, row);
    v.quantity(speed, {.key = "speed",
                          .label = "Speed there",
                          .unit = "rpm",
                          .range = {0, 1e6},
                          .help = "What the axis of the picture says at this mark.",
                          .required = false,
                          .if_empty = left_empty::not_asked("not read"),
                          .applies = !by_rate});
    v.quantity(rate, {.key = "rate",
                         .label = "Pulses there",
                         .unit = "Hz",
                         .range = {0, 1e9},
                         .help = "What the axis of the picture says at this mark; kHz and pulses a second (Hz) alike.",
                         .required = false,
                         .if_empty = left_empty::not_asked("not read"),
                         .applies = by_rate});
}

void TorqueMark::describe(FieldVisitor& v) {
    describe_place(v, column, row);
    v.quantity(torque, {.key = "torque",
                           .label = "Torque there",
                           .unit = "N·m",
                           .range = {0, 1e7},
                           .help = "What the axis of the picture says at this mark.",
                           .required = false,
                           .if_empty = left_empty::not_asked("not read")});
}

void PictureCurve::describe(FieldVisitor& v) {
    v.choice(of, {.key = "of",
                     .label = "Curve",
                     .options = CurvePicture::curves_of,
                     .help = "The curve of the motor that these points are read for.",
                     .optional = true});
    v.samples(points, {"points", "Points", "Rows of column and row of the picture.", 2, CurvePicture::most_points});
}

CurvePicture::MarkRef CurvePicture::mark(int i) {
    const auto speed = [&](SpeedMark& m) {
        const bool pulses = speed_as == SpeedRead::pulses;
        return MarkRef{&m.column, &m.row, pulses ? static_cast<const QuantityBase*>(&m.rate) : &m.speed};
    };
    const auto torque = [](TorqueMark& m) { return MarkRef{&m.column, &m.row, &m.torque}; };
    return i == 0 ? speed(speed_1) : i == 1 ? speed(speed_2) : i == 2 ? torque(torque_1) : torque(torque_2);
}

void CurvePicture::describe(FieldVisitor& v) {
    v.text(name, {"name", "Picture", "The file it came from."});
    v.attachment(image, {"image", "Image", "The file as it came, PNG, JPEG, BMP or GIF.", largest});
    v.choice(lie, {.key = "lie",
                      .label = "Axes",
                      .options = lies,
                      .help = "Upright axes are read by column and row alone; askew, the marks tell directions too and "
                              "must be set with care.",
                      .optional = true});
    v.choice(speed_as, {.key = "speed_as",
                           .label = "It tells",
                           .options = reads,
                           .help = "Sheets of steppers often have pulses a second in place of speed.",
                           .optional = true});
    const bool pulses = speed_as == SpeedRead::pulses;
    v.quantity(pulse_angle,
        {.key = "pulse_angle",
            .label = "Per pulse",
            .unit = "deg",
            .range = {0, 360, true},
            .help = "What a pulse turns: full or half steps, as the sheet says beside the curve; 1.8° or 0.9°.",
            .required = false,
            .if_empty = left_empty::not_asked("not read"),
            .applies = pulses});
    const auto scale = [&](PictureScale& s, const char* key, const char* label) {
        v.choice(s, {.key = key,
                        .label = label,
                        .options = scales,
                        .help = "Logarithmic where equal distances are equal ratios: 10, 100, 1000.",
                        .optional = true});
    };
    scale(speed_scale, "speed_scale", "Speed scale");
    scale(torque_scale, "torque_scale", "Torque scale");
    speed_1.by_rate = speed_2.by_rate = pulses;
    v.group(speed_1, {.key = "speed_1", .label = "First mark of speed"});
    v.group(speed_2, {.key = "speed_2", .label = "Second mark of speed"});
    v.group(torque_1, {.key = "torque_1", .label = "First mark of torque"});
    v.group(torque_2, {.key = "torque_2", .label = "Second mark of torque"});
    v.list(curves, {"curves", "Curves picked", "curve", "Points clicked on the picture.", most_curves});
}

} // namespace fulmox
