// Curves read off a picture: its marks make a scale, what was clicked becomes speeds and torques.
//
// Along each axis a value runs evenly, or its logarithm does, from the first mark to the second. Upright axes are read
// by column and row alone; askew ones by the parallelogram that the marks span (affine map).
#pragma once

#include "core/model/curve_picture.h"
#include "core/model/motor.h"

#include <optional>
#include <string>
#include <vector>

namespace fulmox {

/// What a picture's marks say, or what is wrong with them.
class PictureReading {
  public:
    struct Value {
        double speed = 0;  ///< rad/s
        double torque = 0; ///< N·m
    };
    struct Place {
        double column = 0, row = 0; ///< pixels
    };

    explicit PictureReading(const CurvePicture& picture);

    /// What is missing or contradicts itself, each for itself; empty: the picture can be read.
    const std::vector<std::string>& wrong() const { return wrong_; }
    /// What is odd, and read all the same.
    const std::vector<std::string>& odd() const { return odd_; }
    /// Needs a picture that can be read.
    Value at(Place place) const;
    /// Where a value lies; nothing where a logarithmic scale does not have it.
    std::optional<Place> place_of(Value value) const;
    /// What half a pixel along the axes is at a place, in speed and torque.
    Value half_pixel(Place place) const;

  private:
    struct Scale {
        double first = 0, second = 0; ///< at the marks, or their logarithms
        bool logarithmic = false;
        double at(double share) const;
        std::optional<double> share_of(double value) const;
    };
    Scale speed_, torque_;
    Place origin_[2];       ///< the first marks, of speed and torque
    double across_[2] = {}; ///< share along the axis of speed a pixel to the right and one down
    double along_[2] = {};  ///< the same of torque
    std::vector<std::string> wrong_, odd_;
};

/// One curve as it will stand in the motor, by speed, or what is wrong with it.
struct PickedCurve {
    std::vector<CurvePoint> points; ///< with digits to a twentieth of a pixel, in the units of the marks
    std::vector<std::string> wrong;
};
PickedCurve pick_curve(const CurvePicture& picture, const PictureCurve& curve);

/// The points of that curve in a motor.
std::vector<CurvePoint>& curve_of(Motor& motor, CurveOf of);
const std::vector<CurvePoint>& curve_of(const Motor& motor, CurveOf of);
/// "peak curve", of a stepper "pull-out curve"; "continuous curve"; "pull-in curve".
const char* curve_name(const Motor& motor, CurveOf of);

} // namespace fulmox
