#include "core/motor/picture_reading.h"

#include "core/quantity/format.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace fulmox {

namespace {

constexpr double nearest_marks = 2; // pixels between the marks of an axis; closer, a click decides everything
constexpr double straight = 0.5 * std::numbers::pi / 180; // upright axes may lean so far before it is said

std::string px(double v) { return format_number(v, 5); }

double length(double column, double row) { return std::hypot(column, row); }

} // namespace

double PictureReading::Scale::at(double share) const {
    const double v = first + share * (second - first);
    return logarithmic ? std::exp(v) : v;
}

std::optional<double> PictureReading::Scale::share_of(double value) const {
    if (logarithmic && !(value > 0)) return std::nullopt;
    return ((logarithmic ? std::log(value) : value) - first) / (second - first);
}

PictureReading::PictureReading(const CurvePicture& p) {
    const bool pulses = p.speed_as == SpeedRead::pulses;
    const auto missing = [&](bool there, std::string what) {
        if (!there) wrong_.push_back(std::move(what));
        return there;
    };
    // a value as the sheet has it, told in its own unit
    const auto scale = [&](Scale& s, const char* of, PictureScale kind, const QuantityBase& a, const QuantityBase& b,
                           double factor) {
        bool there = missing(a.given(), std::string("the first mark of ") + of + " has no value yet");
        there = missing(b.given(), std::string("the second mark of ") + of + " has no value yet") && there;
        if (!there) return;
        s.logarithmic = kind == PictureScale::logarithmic;
        if (s.logarithmic && (a.si <= 0 || b.si <= 0)) {
            wrong_.push_back(std::string("a mark of ") + of + " says " + (a.si <= 0 ? a : b).text +
                             "; on a logarithmic scale a value is greater than 0");
            return;
        }
        if (a.si == b.si) {
            wrong_.push_back(std::string("both marks of ") + of + " say " + a.text + "; two values are needed");
            return;
        }
        s.first = s.logarithmic ? std::log(a.si * factor) : a.si * factor;
        s.second = s.logarithmic ? std::log(b.si * factor) : b.si * factor;
    };
    if (p.image.empty()) wrong_.emplace_back("there is no picture yet");
    bool placed = missing(p.speed_1.placed(), "the first mark of speed is not placed yet");
    placed = missing(p.speed_2.placed(), "the second mark of speed is not placed yet") && placed;
    placed = missing(p.torque_1.placed(), "the first mark of torque is not placed yet") && placed;
    placed = missing(p.torque_2.placed(), "the second mark of torque is not placed yet") && placed;
    const bool angle = !pulses || missing(p.pulse_angle.given(), "by how much one pulse turns the shaft is not given");
    if (pulses)
        scale(speed_, "speed", p.speed_scale, p.speed_1.rate, p.speed_2.rate, angle ? p.pulse_angle.si : 1);
    else
        scale(speed_, "speed", p.speed_scale, p.speed_1.speed, p.speed_2.speed, 1);
    scale(torque_, "torque", p.torque_scale, p.torque_1.torque, p.torque_2.torque, 1);
    if (!placed) return;

    origin_[0] = {p.speed_1.column.si, p.speed_1.row.si};
    origin_[1] = {p.torque_1.column.si, p.torque_1.row.si};
    const double sx = p.speed_2.column.si - origin_[0].column, sy = p.speed_2.row.si - origin_[0].row;
    const double tx = p.torque_2.column.si - origin_[1].column, ty = p.torque_2.row.si - origin_[1].row;
    const bool across = p.lie == PictureLie::speed_across;
    const auto coincide = [&](const char* of, double apart, const std::string& where) {
        if (apart >= nearest_marks) return false;
        wrong_.push_back(std::string("the marks of ") + of + " lie " + px(apart) + " pixels apart" + where +
                         "; at least " + px(nearest_marks) + " are needed, better most of the axis");
        return true;
    };
    if (p.lie == PictureLie::tilted) {
        const bool bad = coincide("speed", length(sx, sy), "");
        if (coincide("torque", length(tx, ty), "") || bad) return;
        const double det = sx * ty - sy * tx;
        if (std::abs(det) < std::sin(10 * std::numbers::pi / 180) * length(sx, sy) * length(tx, ty)) {
            wrong_.emplace_back("the axes of speed and torque run the same way by their marks");
            return;
        }
        across_[0] = ty / det;
        across_[1] = -tx / det;
        along_[0] = -sy / det;
        along_[1] = sx / det;
        return;
    }
    const double speed_runs = across ? sx : sy, speed_aside = across ? sy : sx;
    const double torque_runs = across ? ty : tx, torque_aside = across ? tx : ty;
    const bool bad = coincide("speed", std::abs(speed_runs), across ? " by their columns" : " by their rows");
    if (coincide("torque", std::abs(torque_runs), across ? " by their rows" : " by their columns") || bad) return;
    (across ? across_[0] : across_[1]) = 1 / speed_runs;
    (across ? along_[1] : along_[0]) = 1 / torque_runs;
    // a mark may be set anywhere beside its axis, so only leaning the same way by both axes tells of a picture askew
    const double lean_speed = std::atan2(speed_aside, speed_runs) * (across ? 1 : -1);
    const double lean_torque = -std::atan2(torque_aside, torque_runs) * (across ? 1 : -1);
    const auto wrapped = [](double a) { return std::remainder(a, std::numbers::pi); };
    const double a = wrapped(lean_speed), b = wrapped(lean_torque);
    if (std::abs(a) > straight && std::abs(b) > straight && std::abs(a - b) < straight)
        odd_.push_back("the marks of both axes lean by " + format_number(std::abs(a) * 180 / std::numbers::pi, 2) +
                       "°; if the picture is askew, say so under Axes");
}

PictureReading::Value PictureReading::at(Place p) const {
    const double ds = across_[0] * (p.column - origin_[0].column) + across_[1] * (p.row - origin_[0].row);
    const double dt = along_[0] * (p.column - origin_[1].column) + along_[1] * (p.row - origin_[1].row);
    return {speed_.at(ds), torque_.at(dt)};
}

std::optional<PictureReading::Place> PictureReading::place_of(Value v) const {
    const auto s = speed_.share_of(v.speed), t = torque_.share_of(v.torque);
    if (!s || !t) return std::nullopt;
    // [across; along]·p = shares
    const double u = *s + across_[0] * origin_[0].column + across_[1] * origin_[0].row;
    const double w = *t + along_[0] * origin_[1].column + along_[1] * origin_[1].row;
    const double det = across_[0] * along_[1] - across_[1] * along_[0];
    return Place{(u * along_[1] - w * across_[1]) / det, (across_[0] * w - along_[0] * u) / det};
}

PictureReading::Value PictureReading::half_pixel(Place p) const {
    const Value here = at(p);
    Value most;
    for (const auto& [dc, dr] : {std::pair{0.5, 0.0}, std::pair{0.0, 0.5}}) {
        const Value there = at({p.column + dc, p.row + dr});
        most.speed = std::max(most.speed, std::abs(there.speed - here.speed));
        most.torque = std::max(most.torque, std::abs(there.torque - here.torque));
    }
    return most;
}

std::vector<CurvePoint>& curve_of(Motor& motor, CurveOf of) {
    return of == CurveOf::peak ? motor.peak : of == CurveOf::continuous ? motor.continuous : motor.pull_in;
}

const std::vector<CurvePoint>& curve_of(const Motor& motor, CurveOf of) {
    return curve_of(const_cast<Motor&>(motor), of);
}

const char* curve_name(const Motor& motor, CurveOf of) {
    if (of == CurveOf::continuous) return "continuous curve";
    if (of == CurveOf::pull_in) return "pull-in curve";
    return motor.stepper() ? "pull-out curve" : "peak curve";
}

PickedCurve pick_curve(const CurvePicture& picture, const PictureCurve& curve) {
    PickedCurve out;
    const PictureReading reading(picture);
    if (!reading.wrong().empty()) {
        out.wrong = reading.wrong();
        return out;
    }
    if (curve.points.rows() < 2) {
        out.wrong.push_back("the curve has " + std::to_string(curve.points.rows()) + " of at least two points");
        return out;
    }
    struct Read {
        std::size_t number;
        PictureReading::Value value, half;
    };
    std::vector<Read> read;
    const Unit& torque_unit =
        picture.torque_1.torque.unit ? *picture.torque_1.torque.unit : *find_unit("N·m", Kind::torque);
    const Unit& speed_unit = picture.speed_as == SpeedRead::speed && picture.speed_1.speed.unit
                                 ? *picture.speed_1.speed.unit
                                 : *find_unit("rpm", Kind::angular_speed);
    for (std::size_t i = 0; i < curve.points.rows(); ++i) {
        const PictureReading::Place p{curve.points.at(i, 0), curve.points.at(i, 1)};
        Read r{i + 1, reading.at(p), reading.half_pixel(p)};
        const auto settle = [&](double& v, double half, const Unit& unit, const char* what) {
            if (!std::isfinite(v)) {
                out.wrong.push_back(
                    "point " + std::to_string(i + 1) + " lies so far off that its " + what + " is no number");
            } else if (v < 0 && v >= -2 * half) {
                v = 0; // on the axis, as well as a hand can set it
            } else if (v < 0) {
                out.wrong.push_back("point " + std::to_string(i + 1) + " reads a " + what + " of " +
                                    format_quantity(v, unit, 3) + "; nothing below 0 is taken");
            }
        };
        settle(r.value.speed, r.half.speed, speed_unit, "speed");
        settle(r.value.torque, r.half.torque, torque_unit, "torque");
        read.push_back(r);
    }
    if (!out.wrong.empty()) return out;
    std::stable_sort(
        read.begin(), read.end(), [](const Read& a, const Read& b) { return a.value.speed < b.value.speed; });
    for (std::size_t i = 1; i < read.size(); ++i)
        if (read[i].value.speed - read[i - 1].value.speed < 0.5 * read[i].half.speed)
            out.wrong.push_back("points " + std::to_string(std::min(read[i - 1].number, read[i].number)) + " and " +
                                std::to_string(std::max(read[i - 1].number, read[i].number)) +
                                " lie at the same speed; a curve has one torque at each");
    if (!out.wrong.empty()) return out;
    const auto written = [](double si, double half, const Unit& unit) {
        const double value = from_si(si, unit), step = std::abs(from_si(si + half / 10, unit) - value);
        const int digits = step > 0 && step < 1 ? std::min(12, static_cast<int>(std::ceil(-std::log10(step)))) : 0;
        return fmt::format("{:.{}f} {}", value, digits, unit.symbol);
    };
    for (const Read& r : read) {
        CurvePoint& p = out.points.emplace_back();
        p.speed =
            Quantity<Kind::angular_speed>(written(r.value.speed, r.half.speed, speed_unit), InputSource::datasheet);
        p.torque = Quantity<Kind::torque>(written(r.value.torque, r.half.torque, torque_unit), InputSource::datasheet);
        p.speed.note = p.torque.note = picture.name.empty() ? "read off a picture" : "read off " + picture.name;
    }
    return out;
}

} // namespace fulmox
