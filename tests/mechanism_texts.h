// One plausible axis for every mechanism, for tests and benchmarks that walk the registry.
#pragma once

#include "core/load/load_model.h"
#include "core/model/walk.h"

#include <cmath>
#include <map>
#include <stdexcept>
#include <string>
#include <utility>
#include <vector>

namespace fulmox::testing {

using Texts = std::vector<std::pair<std::string, std::string>>;

/// What every mechanism needs beyond its defaults, by its key; the registry test fails where one is missing.
inline Texts mechanism_texts(const std::string& key) {
    static const std::map<std::string, Texts> all{
        {"screw", {{"lead", "10 mm"}, {"diameter", "20 mm"}, {"length", "900 mm"}, {"efficiency", "0.9"}}},
        {"rack", {{"teeth", "30"}, {"module", "2 mm"}, {"pinion_inertia", "4 kg·cm²"}}},
        {"belt", {{"teeth", "32"}, {"pitch", "5 mm"}, {"pulley_inertia", "1.2 kg·cm²"}, {"idlers", "2"},
                     {"idler_inertia", "0.6 kg·cm²"}, {"idler_diameter", "40 mm"}, {"belt_mass", "0.4 kg"}}},
        {"table", {{"table_inertia", "900 kg·cm²"}, {"tilt", "30 deg"}, {"payload_radius", "200 mm"},
                      {"friction_torque", "2 N·m"}}},
        {"conveyor", {{"pulley_diameter", "80 mm"}, {"belt_thickness", "2 mm"}, {"belt_mass", "3 kg"},
                         {"belt_drag", "25 N"}, {"pulley_inertia", "9 kg·cm²"}, {"rollers", "12"},
                         {"roller_inertia", "2 kg·cm²"}, {"roller_diameter", "50 mm"}}},
        {"feed_rolls", {{"roll_diameter", "60 mm"}, {"roll_inertia", "5 kg·cm²"}, {"follower_diameter", "40 mm"},
                           {"follower_inertia", "1 kg·cm²"}, {"tension", "40 N"}}},
        {"winder", {{"core_diameter", "76 mm"}, {"roll_diameter", "400 mm"}, {"web_thickness", "0.05 mm"},
                       {"web_width", "300 mm"}, {"core_inertia", "8 kg·cm²"}, {"tension", "60 N"}}},
        {"hoist", {{"drum_diameter", "160 mm"}, {"falls", "2"}, {"drum_inertia", "250 kg·cm²"}}},
        {"arm", {{"arm_mass", "4 kg"}, {"arm_centre", "250 mm"}, {"payload_radius", "500 mm"},
                    {"horizontal_at", "30 deg"}}},
        {"slider_crank", {{"crank", "40 mm"}, {"rod", "150 mm"}, {"crank_inertia", "20 kg·cm²"}}},
        {"scotch_yoke", {{"crank", "40 mm"}, {"crank_inertia", "20 kg·cm²"}}},
        {"fan", {{"rotor_inertia", "150 kg·cm²"}, {"reference_torque", "3 N·m"}, {"reference_speed", "1500 rpm"}}},
        {"linear_motor", {}},
        {"free", {{"travel", "60 mm"}, {"inertia", "3 kg·cm²"}, {"friction_torque", "0.4 N·m"},
                     {"constant_torque", "1.5 N·m"}}},
        {"demand", {{"at", "screw"}, {"lead", "10 mm"}, {"inertia", "2 kg·cm²"}}}};
    return all.at(key); // throws for a mechanism without a test axis
}

/// The demo lift turned into an axis with this mechanism: out in 0.8 s, a dwell, back in 0.6 s.
inline Machine turned_into(Machine m, const std::string& key) {
    Axis& a = m.axes[0];
    auto field = find_field(m, "/axes/0/mechanism");
    for (std::size_t i = 0; i < field->variant.kinds().size(); ++i)
        if (key == field->variant.kinds()[i].key) field->choose(static_cast<int>(i));
    for (const auto& [name, text] : mechanism_texts(key)) {
        auto f = find_field(m, "/axes/0/mechanism/" + name);
        if (f && f->type == FieldRef::Type::choice) {
            for (std::size_t i = 0; i < f->choice_spec.options.size(); ++i)
                if (text == f->choice_spec.options[i].key) f->choose(static_cast<int>(i));
            continue;
        }
        if (!f || assign(*f, text)) throw std::runtime_error(key + " " + name + " " + text);
    }
    const Motion motion = motion_of(a.mechanism);
    a.coupling = Coupling{};
    a.cycle = Cycle{};
    for (const char* what : {"out", "rest", "back"}) {
        Segment s;
        const bool rest = std::string(what) == "rest";
        if (rest) {
            Dwell d;
            d.duration = Quantity<Kind::time>("0.3 s");
            s.what = d;
        } else {
            MoveInTime mv;
            const bool out = std::string(what) == "out";
            mv.distance =
                MotionQuantity<Order::position>(std::string(out ? "" : "-") + (motion.rotary ? "150 deg" : "300 mm"));
            mv.duration = Quantity<Kind::time>(out ? "0.8 s" : "0.6 s");
            s.what = mv;
        }
        a.cycle.segments.push_back(std::move(s));
    }
    reread_motion(a);
    return m;
}

/// The same with a cycle of this many segments, no two of them alike: moves by the modified sine that go out and come
/// back.
inline Machine with_long_cycle(Machine m, std::size_t segments) {
    auto& list = m.axes[0].cycle.segments;
    const auto once = list;
    list.clear();
    for (std::size_t i = 0; i < segments; ++i) {
        Segment s = once[i % once.size()];
        const auto round = static_cast<double>(i / once.size());
        const double longer = 1 + 0.2 * std::sin(round);
        if (auto* mv = std::get_if<MoveInTime>(&s.what)) {
            mv->law = Law::modified_sine;
            mv->distance.si *= longer; // the way back is as long as the way out
            mv->duration.si *= 1 + 0.1 * std::cos(1.7 * static_cast<double>(i));
        } else if (auto* d = std::get_if<Dwell>(&s.what)) {
            d->duration.si *= longer;
        }
        list.push_back(std::move(s));
    }
    return m;
}

} // namespace fulmox::testing
