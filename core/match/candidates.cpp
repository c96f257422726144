#include "core/match/candidates.h"

#include "core/match/assess.h"
#include "core/match/limits.h"
#include "core/match/stepping.h"
#include "core/model/walk.h"
#include "core/quantity/columns.h"

#include <algorithm>
#include <atomic>
#include <cmath>
#include <limits>
#include <map>
#include <numeric>
#include <oneapi/tbb/parallel_for.h>
#include <sstream>
#include <tuple>
#include <utility>

namespace fulmox {

namespace {

// Judges as many as there are on all cores; `put` lays one of them into a copy of the axis.
template <class Put, class Sound>
std::vector<Candidate> judge_each(const Machine& machine, std::size_t index, std::size_t count, const PartKind& kind,
    const std::function<bool()>& go_on, const std::function<void(double)>& done, Put&& put, Sound&& sound) {
    std::vector<Candidate> out(count);
    const std::string path = "/axes/" + std::to_string(index);
    std::atomic<bool> left = false;
    std::atomic<std::size_t> judged = 0;
    // of an axis whose quantities are all within their ranges only those of the part need to be looked at
    const Axis& base = machine.axes.at(index);
    const bool base_sound = !has_errors(check_quantities(base, path, base.driven() ? "" : path + "/motor"));
    tbb::parallel_for(std::size_t{0}, count, [&](std::size_t i) {
        if (left || (go_on && !go_on())) {
            left = true;
            return;
        }
        if (done) done(static_cast<double>(judged++) / static_cast<double>(count));
        Axis axis = base;
        put(axis, i);
        Assessment a;
        try {
            a = assess(machine, axis, path,
                {.workings = false,
                    .figures = false,
                    .cautions = false,
                    .in_range = base_sound && sound(i),
                    .go_on = go_on});
        } catch (const Interrupted&) {
            left = true;
            return;
        }
        const auto use = [&](const char* key) {
            const Limit* l = a.limit(key);
            return l ? l->utilisation() : std::nan("");
        };
        Candidate& c = out[i];
        c.ratio = a.inertia && a.inertia->rotor > 0 ? a.inertia->ratio() : std::nan("");
        c.speed = use("speed");
        c.peak = use("peak_torque");
        c.heat = open_loop(axis) ? use("phase_current") : use("continuous_loss");
        c.acceleration = peak_acceleration(a);
        c.tightest = std::nan("");
        std::erase_if(a.limits, [&](const Limit& l) { return !tells_of(kind, l.key); });
        if (a.limits.empty()) {
            c.reason = Text("no limit of this axis asks for it");
            return;
        }
        if (std::string_view(kind.key) == "motor" && !a.motor) return;
        const Limit& worst = a.limits[*deciding(a.limits)];
        // nothing but accepted unknowns: no reason against it
        c.state = worst.accepted ? LimitState::fits : worst.state;
        if (!worst.yes_or_no) c.tightest = worst.utilisation();
        c.key = worst.key;
        c.limit = worst.label;
        c.reason = worst.reason;
        if (c.state != LimitState::cannot_say) return;
        for (const Limit& l : a.limits)
            if (!l.accepted)
                for (const Missing& m : l.missing)
                    if (std::find(c.missing.begin(), c.missing.end(), m) == c.missing.end()) c.missing.push_back(m);
    });
    if (left) out.clear();
    return out;
}

} // namespace

std::string_view part_of_limit(std::string_view key) {
    const LimitRow* row = limit_row(key);
    return row ? row->part : "motor";
}

const char* part_name(std::string_view part) {
    if (part == "precision") return "precision of the axis";
    if (part == "screw") return "screw";
    for (const PartKind& kind : part_kinds())
        if (kind.key == part) {
            static const std::map<std::string_view, std::string> names = [] {
                std::map<std::string_view, std::string> out;
                for (const PartKind& each : part_kinds()) out.emplace(each.key, lower(each.label));
                return out;
            }();
            return names.at(part).c_str();
        }
    return "axis";
}

CandidateCount count(const std::vector<Candidate>& candidates) {
    CandidateCount n;
    for (const Candidate& c : candidates) n.add(c.state);
    return n;
}

std::string count_words(const CandidateCount& n) {
    return std::to_string(n.suitable) + " suitable, " + std::to_string(n.unknown) + " unknown, " +
           std::to_string(n.over) + " over";
}

std::string missing_words(const std::vector<Missing>& missing) {
    constexpr std::size_t most = 3;
    if (missing.empty()) return {};
    std::string out = ": ";
    for (std::size_t i = 0; i < std::min(most, missing.size()); ++i) out += (i == 0 ? "" : ", ") + missing[i].name;
    if (missing.size() > most) out += " and " + std::to_string(missing.size() - most) + " more";
    return out + " not given";
}

bool tells_of(const PartKind& kind, std::string_view key) {
    const std::string_view of = kind.key, part = part_of_limit(key);
    // the ratings of a screw are the same with any other part
    if (part == "screw") return false;
    // another bore, another size of hub, an adapter: no reason against a motor or a gearhead
    const bool fits_together = key == "coupling_bores" || key == "coupling_range";
    if (of == "motor") return !fits_together && key != "stage_mating";
    if (of == "gearhead") return !fits_together;
    if (of == "coupling") return part == of || part == "precision";
    if (of == "drive") // what it leaves of the motor's torque
        return part == of || key == "peak_torque" || key == "speed" || key == "holding" || key == "continuous_point";
    return part == of;
}

std::vector<Candidate> judge_motors(const Machine& machine, std::size_t index, const std::vector<const Motor*>& motors,
    const std::function<bool()>& go_on, const std::function<void(double)>& done) {
    return judge_each(
        machine, index, motors.size(), part_kind("motor"), go_on, done,
        [&](Axis& axis, std::size_t i) { axis.motor = *motors[i]; },
        // without a motor nothing of the drive is asked for, so that the axis as it is tells nothing of it
        [&, driven = machine.axes.at(index).driven()](std::size_t i) {
            return driven &&
                   !has_errors(check_quantities(GroupRef(const_cast<Motor&>(*motors[i])), "")); // only looked at
        });
}

std::vector<Candidate> judge_parts(const Machine& machine, std::size_t index, const PartKind& kind, std::size_t place,
    const PartLists& shelf, const std::vector<std::size_t>& which, const std::function<bool()>& go_on,
    const std::function<void(double)>& done) {
    return judge_each(
        machine, index, which.size(), kind, go_on, done,
        [&](Axis& axis, std::size_t i) { kind.put(axis, place, shelf, which[i]); },
        [&](std::size_t i) {
            const ListRef parts = kind.own(const_cast<PartLists&>(shelf)); // only looked at
            return !has_errors(check_quantities(parts.shared_entry(which[i]), ""));
        });
}

std::vector<std::size_t> pareto_front(const std::vector<double>& x, const std::vector<double>& y) {
    std::vector<std::size_t> order, out;
    for (std::size_t i = 0; i < std::min(x.size(), y.size()); ++i)
        if (!std::isnan(x[i]) && !std::isnan(y[i])) order.push_back(i);
    std::stable_sort(order.begin(), order.end(),
        [&](std::size_t a, std::size_t b) { return std::pair(x[a], y[a]) < std::pair(x[b], y[b]); });
    for (const std::size_t i : order)
        if (out.empty() || y[i] < y[out.back()]) out.push_back(i);
    return out;
}

std::vector<std::size_t> cheapest_first(
    const std::vector<const Motor*>& motors, const std::vector<Candidate>& candidates) {
    std::vector<double> prices;
    for (const Motor* m : motors) prices.push_back(m->price.value_or(std::nan("")));
    return cheapest_first(prices, candidates);
}

std::vector<std::size_t> cheapest_first(const std::vector<double>& prices, const std::vector<Candidate>& candidates) {
    std::vector<std::size_t> order(prices.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    constexpr double last = std::numeric_limits<double>::infinity();
    const auto rank = [&](std::size_t i) {
        const Candidate& c = candidates[i];
        const double use = std::isnan(c.tightest) ? last : c.tightest, price = std::isnan(prices[i]) ? last : prices[i];
        return carries(c.state)                    ? std::tuple(0, price, use)
               : c.state == LimitState::cannot_say ? std::tuple(1, price, 0.0)
                                                   : std::tuple(2, use, price);
    };
    std::stable_sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) { return rank(a) < rank(b); });
    return order;
}

bool suits(const Motor& motor, const Axis& axis) { return motor.linear() == motion_of(axis.mechanism).direct; }

bool MotorFilter::empty() const {
    return words.empty() && kind.empty() && series.empty() && !(frame > 0) && !(mass > 0) && !(price > 0) &&
           !(voltage > 0) && !brake;
}

double motor_voltage(const Motor& motor) {
    return motor.curve_voltage.given() ? motor.curve_voltage.si : rated_voltage(motor);
}

bool passes(const Motor& motor, const MotorFilter& f) {
    if (!f.kind.empty() && f.kind != motor.kind_key()) return false;
    if (!f.series.empty() && f.series != motor.series) return false;
    const auto within = [](const QuantityBase& q, double most) { return !(most > 0) || (q.given() && q.si <= most); };
    if (!within(motor.frame, f.frame) || !within(motor.mass, f.mass) || !within(motor.price, f.price)) return false;
    if (f.voltage > 0 && !(std::abs(motor_voltage(motor) / f.voltage - 1) <= 0.1)) return false;
    if (f.brake && motor.brake_torque.given() != *f.brake) return false;
    const std::string all = lower(motor.name + " " + motor.series + " " + motor.kind_label() + " " + motor.origin);
    std::istringstream words(lower(f.words));
    for (std::string word; words >> word;)
        if (all.find(word) == std::string::npos) return false;
    return true;
}

} // namespace fulmox
