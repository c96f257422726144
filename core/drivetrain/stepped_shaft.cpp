#include "core/drivetrain/stepped_shaft.h"

#include "core/quantity/not_finite.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <numbers>

namespace fulmox {

namespace {

using Eigen::Matrix2d;
using std::numbers::pi;

struct Member {
    double length, bending, mass; ///< m, E I in N·m², ρ A in kg/m
};

// Displacement and slope at either end to force and moment.
struct MemberStiffness {
    Matrix2d near, cross, far; ///< 11, 12, 22
};

MemberStiffness dynamic_stiffness(const Member& m, double omega) {
    const double l = m.length, scale = m.bending / (l * l * l);
    const double lambda = l * std::pow(m.mass * omega * omega / m.bending, 0.25);
    MemberStiffness k;
    if (lambda < 0.1) {
        // the circular and hyperbolic functions cancel here; stiffness less ω² of the consistent mass is as good
        const double w = m.mass * l * omega * omega / 420 / scale;
        k.near << 12 - 156 * w, (6 - 22 * w) * l, (6 - 22 * w) * l, (4 - 4 * w) * l * l;
        k.far << 12 - 156 * w, -(6 - 22 * w) * l, -(6 - 22 * w) * l, (4 - 4 * w) * l * l;
        k.cross << -12 - 54 * w, (6 + 13 * w) * l, -(6 + 13 * w) * l, (2 + 3 * w) * l * l;
    } else {
        const double s = std::sin(lambda), c = std::cos(lambda), sh = std::sinh(lambda), ch = std::cosh(lambda);
        const double d = 1 - c * ch;
        const double vv = lambda * lambda * lambda * (c * sh + s * ch) / d, vt = l * lambda * lambda * s * sh / d,
                     tt = l * l * lambda * (s * ch - c * sh) / d;
        const double cross_vv = -lambda * lambda * lambda * (s + sh) / d, cross_vt = l * lambda * lambda * (ch - c) / d;
        k.near << vv, vt, vt, tt;
        k.far << vv, -vt, -vt, tt;
        k.cross << cross_vv, cross_vt, -cross_vt, l * l * lambda * (sh - s) / d;
    }
    k.near *= scale;
    k.far *= scale;
    k.cross *= scale;
    return k;
}

// How many bending frequencies of the member, clamped at both ends, lie below ω.
int clamped_count(const Member& m, double omega) {
    const double lambda = m.length * std::pow(m.mass * omega * omega / m.bending, 0.25);
    const int whole = static_cast<int>(lambda / pi);
    const bool positive = 1 - std::cos(lambda) * std::cosh(lambda) > 0;
    return whole - (1 - (whole % 2 == 0 ? 1 : -1) * (positive ? 1 : -1)) / 2;
}

struct Held {
    bool place = false, slope = false;
};

// How many frequencies of the whole lie below ω: those of the clamped members, and the negative ones of the stiffness.
int frequencies_below(const std::vector<Member>& members, const std::vector<Held>& nodes, double omega) {
    int count = 0;
    for (const Member& m : members) count += clamped_count(m, omega);
    Matrix2d carried = Matrix2d::Zero();
    for (std::size_t n = 0; n < nodes.size(); ++n) {
        Matrix2d own = carried, cross = Matrix2d::Zero();
        MemberStiffness k;
        const bool more = n < members.size();
        if (more) {
            k = dynamic_stiffness(members[n], omega);
            own += k.near;
            cross = k.cross;
        }
        for (const int held : {0, 1})
            if (held == 0 ? nodes[n].place : nodes[n].slope) {
                own.row(held).setZero();
                own.col(held).setZero();
                own(held, held) = 1;
                cross.row(held).setZero();
            }
        const double determinant = own.determinant();
        count += determinant < 0 ? 1 : own.trace() < 0 ? 2 : 0;
        if (more) {
            if (nodes[n + 1].place) cross.col(0).setZero();
            if (nodes[n + 1].slope) cross.col(1).setZero();
            carried = k.far - cross.transpose() * own.inverse() * cross;
        }
    }
    return count;
}

} // namespace

double bending_frequency(const std::vector<ShaftStretch>& shaft, const std::vector<ShaftSupport>& supports,
    double elastic_modulus, double density) {
    double whole = 0;
    for (const ShaftStretch& s : shaft) {
        if (!(s.length > 0) || !(s.diameter > 0) || !std::isfinite(s.length * s.diameter)) return no_number;
        whole += s.length;
    }
    if (!(whole > 0) || !(elastic_modulus > 0) || !(density > 0)) return no_number;
    // cut where supports stand
    std::vector<double> cuts;
    double at = 0;
    cuts.push_back(0);
    for (const ShaftStretch& s : shaft) cuts.push_back(at += s.length);
    for (const ShaftSupport& s : supports) {
        if (!(s.at >= 0) || s.at > whole * (1 + 1e-9)) return no_number;
        cuts.push_back(std::min(s.at, at));
    }
    std::sort(cuts.begin(), cuts.end());
    const double same = whole * 1e-9;
    cuts.erase(std::unique(cuts.begin(), cuts.end(), [&](double a, double b) { return b - a < same; }), cuts.end());
    std::vector<Member> members;
    for (std::size_t i = 0; i + 1 < cuts.size(); ++i) {
        const double middle = (cuts[i] + cuts[i + 1]) / 2;
        double end = 0;
        const auto stretch = std::find_if(shaft.begin(), shaft.end() - 1, [&](const ShaftStretch& s) {
            end += s.length;
            return middle < end;
        });
        const double d = stretch->diameter;
        members.push_back({cuts[i + 1] - cuts[i], elastic_modulus * pi * d * d * d * d / 64, density * pi * d * d / 4});
    }
    std::vector<Held> nodes(cuts.size());
    std::size_t places = 0;
    bool clamped = false;
    for (const ShaftSupport& s : supports) {
        const auto node = std::min_element(
            cuts.begin(), cuts.end(), [&](double a, double b) { return std::abs(a - s.at) < std::abs(b - s.at); });
        Held& held = nodes[static_cast<std::size_t>(node - cuts.begin())];
        if (!held.place) ++places;
        held.place = true;
        held.slope = held.slope || s.clamped;
        clamped = clamped || s.clamped;
    }
    if (places < 2 && !clamped) return no_number;
    // from the first bending frequency of the slenderest that could be, upwards
    double least = shaft.front().diameter;
    for (const ShaftStretch& s : shaft) least = std::min(least, s.diameter);
    double low = 0, high = std::sqrt(elastic_modulus / density) * least / (whole * whole);
    for (int i = 0; frequencies_below(members, nodes, high) == 0; ++i) {
        if (i == 400) return no_number;
        low = high;
        high *= 1.5;
    }
    for (int i = 0; i < 200 && high - low > 1e-10 * high; ++i) {
        const double middle = (low + high) / 2;
        (frequencies_below(members, nodes, middle) == 0 ? low : high) = middle;
    }
    return (low + high) / 2;
}

} // namespace fulmox
