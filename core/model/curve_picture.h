// A picture of curves out of a datasheet and what was clicked on it, kept so that the reading can be checked.
// Places on it are in pixels from its upper left corner; the middle of the first pixel is 0.5.
#pragma once

#include "core/model/attachment.h"
#include "core/model/field.h"
#include "core/model/motion_quantity.h"
#include "core/model/samples.h"

#include <string>
#include <vector>

namespace fulmox {

/// A place on the axis of the picture that tells speeds.
struct SpeedMark {
    Quantity<Kind::number> column, row; ///< not given: not placed yet
    Quantity<Kind::angular_speed> speed;
    Quantity<Kind::frequency> rate; ///< where the picture counts pulses
    bool by_rate = false;           ///< told by the picture it belongs to, not kept
    Extra extra;
    bool operator==(const SpeedMark& o) const {
        return column == o.column && row == o.row && speed == o.speed && rate == o.rate && extra == o.extra;
    }
    bool placed() const { return column.given() && row.given(); }
    void describe(FieldVisitor& v);
};

/// A place on the axis that tells torques.
struct TorqueMark {
    Quantity<Kind::number> column, row;
    Quantity<Kind::torque> torque;
    Extra extra;
    bool operator==(const TorqueMark&) const = default;
    bool placed() const { return column.given() && row.given(); }
    void describe(FieldVisitor& v);
};

/// Which curve of the motor is read.
enum class CurveOf { peak, continuous, pull_in };

struct PictureCurve {
    CurveOf of = CurveOf::peak;
    Samples points{nullptr, 2}; ///< rows of column, row
    Extra extra;
    bool operator==(const PictureCurve&) const = default;
    void describe(FieldVisitor& v);
};

enum class PictureScale { linear, logarithmic };
/// Which way its axes run. Tilted: as their marks lie, for what was scanned askew.
enum class PictureLie { speed_across, speed_up, tilted };
enum class SpeedRead { speed, pulses };

struct CurvePicture {
    std::string name; ///< the file it came from
    Attachment image;
    PictureLie lie = PictureLie::speed_across;
    SpeedRead speed_as = SpeedRead::speed;
    Quantity<Kind::angle> pulse_angle; ///< by which a pulse turns the shaft
    PictureScale speed_scale = PictureScale::linear;
    PictureScale torque_scale = PictureScale::linear;
    SpeedMark speed_1, speed_2;
    TorqueMark torque_1, torque_2;
    std::vector<PictureCurve> curves;
    Extra extra;
    bool operator==(const CurvePicture&) const = default;
    void describe(FieldVisitor& v);

    static constexpr Option lies[] = {
        {"speed_across", "speed across"}, {"speed_up", "speed upwards"}, {"tilted", "askew"}};
    static constexpr Option reads[] = {{"speed", "speed"}, {"pulses", "pulses a second"}};
    static constexpr Option scales[] = {{"linear", "linear"}, {"logarithmic", "logarithmic"}};
    static constexpr Option curves_of[] = {
        {"peak", "peak, or pull-out"}, {"continuous", "continuous"}, {"pull_in", "pull-in"}};

    /// Its marks in the order speed 1, speed 2, torque 1, torque 2: where they lie, and the value each has.
    struct MarkRef {
        Quantity<Kind::number>*column, *row;
        const QuantityBase* value;
        bool placed() const { return column->given() && row->given(); }
    };
    static constexpr int marks = 4;
    MarkRef mark(int i);

    /// Bytes of one picture: a page scanned in colour has less.
    static constexpr std::size_t largest = 16u << 20;
    static constexpr std::size_t most_curves = 12, most_points = 200;
};

} // namespace fulmox
