#include "core/drivetrain/screw_layout.h"

#include "core/drivetrain/screw_limits.h"
#include "core/drivetrain/stepped_shaft.h"
#include "core/quantity/not_finite.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <utility>

namespace fulmox {

const std::vector<RingGroove>& ring_grooves() {
    static const std::vector<RingGroove> table{{8, 0.8, 7.6, 0.9, 0.6}, {9, 1, 8.6, 1.1, 0.6}, {10, 1, 9.6, 1.1, 0.6},
        {11, 1, 10.5, 1.1, 0.8}, {12, 1, 11.5, 1.1, 0.8}, {13, 1, 12.4, 1.1, 0.9}, {14, 1, 13.4, 1.1, 0.9},
        {15, 1, 14.3, 1.1, 1.1}, {16, 1, 15.2, 1.1, 1.2}, {17, 1, 16.2, 1.1, 1.2}, {18, 1.2, 17, 1.3, 1.5},
        {19, 1.2, 18, 1.3, 1.5}, {20, 1.2, 19, 1.3, 1.5}, {21, 1.2, 20, 1.3, 1.5}, {22, 1.2, 21, 1.3, 1.5},
        {24, 1.2, 22.9, 1.3, 1.7}, {25, 1.2, 23.9, 1.3, 1.7}, {26, 1.2, 24.9, 1.3, 1.7}, {28, 1.5, 26.6, 1.6, 2.1},
        {29, 1.5, 27.6, 1.6, 2.1}, {30, 1.5, 28.6, 1.6, 2.1}, {32, 1.5, 30.3, 1.6, 2.6}, {34, 1.5, 32.3, 1.6, 2.6},
        {35, 1.5, 33, 1.6, 3}, {36, 1.75, 34, 1.85, 3}, {38, 1.75, 36, 1.85, 3}, {40, 1.75, 37.5, 1.85, 3.8},
        {42, 1.75, 39.5, 1.85, 3.8}, {45, 1.75, 42.5, 1.85, 3.8}, {48, 1.75, 45.5, 1.85, 3.8}, {50, 2, 47, 2.15, 4.5},
        {52, 2, 49, 2.15, 4.5}, {55, 2, 52, 2.15, 4.5}, {58, 2, 55, 2.15, 4.5}, {60, 2, 57, 2.15, 4.5}};
    return table;
}

const RingGroove* ring_groove(double shaft) {
    for (const RingGroove& g : ring_grooves())
        if (std::abs(shaft * 1000 - g.shaft) < 1e-6) return &g;
    return nullptr;
}

namespace {

Text length_text(double m) { return Text::of(m, Kind::length); }

// What an end is made of, from the outside inwards.
struct Built {
    std::vector<ScrewSection> sections;
    std::vector<ScrewGroove> grooves;
    double length = 0;
    double seat_middle = 0; ///< from the outer end
    bool seat = false;
};

Built build(const ScrewEnd& e, const char* name, double root, std::vector<Text>& warnings) {
    Built out;
    double at = 0;
    const auto warn = [&](Text words) { warnings.push_back(Text(std::string(name) + ": ") + words); };
    const auto add = [&](SectionOf of, double length, double diameter) {
        out.sections.push_back({of, at, at + length, diameter, false});
        at += length;
    };
    double outer = 0; // the diameter that what comes after must not be smaller than
    const auto grows = [&](double diameter, const char* what) {
        if (diameter < outer * (1 - 1e-9))
            warn(Text(what) + " of " + length_text(diameter) + " is smaller than what stands outside of it, " +
                 length_text(outer) + ": nothing can be pushed over it");
        outer = std::max(outer, diameter);
    };
    if (e.journal_diameter.given()) {
        grows(e.journal_diameter.si, "the journal");
        add(SectionOf::journal, e.journal_length.value_or(2 * e.journal_diameter.si), e.journal_diameter.si);
    }
    if (e.seat_diameter.given()) {
        const double d = e.seat_diameter.si,
                     width = e.seat_length.given() ? e.seat_length.si : e.bearing_width.value_or(no_number);
        if (e.retained == Retained::lock_nut) {
            const double thread = e.lock_thread.value_or(d);
            grows(thread, "the lock-nut thread");
            add(SectionOf::lock_thread, e.lock_length.value_or(thread), thread);
        }
        const RingGroove* groove = e.retained == Retained::ring ? ring_groove(d) : nullptr;
        if (e.retained == Retained::ring && !groove)
            warn(Text("DIN 471 has no normal ring for a shaft of ") + length_text(d));
        if (groove) { // the seat goes on beyond the bearing by groove and edge
            out.grooves.push_back({at + groove->edge / 1000, groove->width / 1000, groove->diameter / 1000, true});
            add(SectionOf::seat, (groove->edge + groove->width) / 1000, d);
        }
        grows(d, "the bearing seat");
        out.seat = true;
        out.seat_middle = at + width / 2;
        add(SectionOf::seat, width, d);
        if (e.seat_length.given() && e.bearing_width.given() && e.retained == Retained::lock_nut &&
            e.seat_length.si > e.bearing_width.si * (1 + 1e-9))
            warn(Text("the seat is longer than its bearing, ") + length_text(e.seat_length.si) + " against " +
                 length_text(e.bearing_width.si) + ": the lock nut meets the shaft and not the bearing");
        if (e.seat_length.given() && e.bearing_width.given() && groove &&
            std::abs(e.seat_length.si - e.bearing_width.si) > 0.05 * e.bearing_width.si)
            warn(Text("the ring stands ") + length_text(e.seat_length.si) + " from the shoulder and the bearing is " +
                 length_text(e.bearing_width.si) + " wide");
        if (e.undercut.value_or(0) > 0)
            out.grooves.push_back(
                {at - e.undercut.si, e.undercut.si, d - 0.4e-3, false}); // 0.2 mm deep, common practice
        else if (e.retained != Retained::nothing)
            warn("the shoulder has no undercut: the bearing does not lie flat against it");
        if (root > 0 && d > root * (1 + 1e-9))
            warn(Text("the bearing seat of ") + length_text(d) + " is larger than the root of the thread, " +
                 length_text(root) + ": the nut cannot be screwed on over it");
        if (root > 0 && d > 0.97 * root && d <= root * (1 + 1e-9))
            warn(Text("hardly a shoulder is left between the seat of ") + length_text(d) + " and the root, " +
                 length_text(root));
    }
    out.length = at;
    return out;
}

// A nut that turns has a seat for its bearing and one for its pulley; the screw stands.
void plan_nut(const Screw& s, ScrewLayout& out) {
    const ScrewEnds& e = s.ends;
    const auto holds_still = [](const ScrewEnd& end) {
        return end.flats.given() || (end.journal_diameter.given() && end.holds == JournalHolds::key);
    };
    if (!holds_still(e.drive_end) && !holds_still(e.far_end))
        out.warnings.push_back("the nut turns and nothing holds the screw still: flats or a key at one end do");
    if (!s.nut_body.said()) return;
    const Built nut = build(s.nut_body, "nut", 0, out.warnings);
    if (nut.length > e.nut_length.si * (1 + 1e-9))
        out.warnings.push_back(Text("nut: its seats, ") + length_text(nut.length) +
                               " together, are longer than nut or carriage, " + length_text(e.nut_length.si));
    for (const ScrewSection& part : nut.sections)
        if (part.diameter <= s.diameter.si)
            out.warnings.push_back(Text("nut: a seat of ") + length_text(part.diameter) +
                                   " is no larger than the screw in it, " + length_text(s.diameter.si));
    out.nut_sections = nut.sections;
    out.nut_grooves = nut.grooves;
    out.nut_bore = s.diameter.si;
}

} // namespace

ScrewLayout screw_layout(const Axis& axis, double stroke) {
    ScrewLayout out;
    const auto* screw = std::get_if<Screw>(&axis.mechanism);
    if (!screw) {
        out.missing = "a screw";
        return out;
    }
    const ScrewEnds& e = screw->ends;
    const auto lacks = [&](const char* what) {
        if (out.missing.empty()) out.missing = what;
    };
    if (!screw->diameter.given()) lacks("the outer diameter of the screw");
    if (!e.nut_length.given()) lacks("the length of nut or carriage");
    if (std::isnan(stroke)) lacks("the stroke of the cycle");
    for (const auto& [end, name] : {std::pair(&e.drive_end, "the drive end"), std::pair(&e.far_end, "the far end")})
        if (end->seat_diameter.given() && !end->seat_length.given() && !end->bearing_width.given())
            lacks(name == std::string("the drive end") ? "the length of the seat at the drive end"
                                                       : "the length of the seat at the far end");
    if (!e.drive_end.seat_diameter.given()) lacks("the bearing seat at the drive end");
    const bool free_end = screw->fixity == EndFixity::fixed_free;
    if (!free_end && !e.far_end.seat_diameter.given()) lacks("the bearing seat at the far end");
    if (screw->turns == ScrewTurns::nut && screw->nut_body.seat_diameter.given() &&
        !screw->nut_body.seat_length.given() && !screw->nut_body.bearing_width.given())
        lacks("the length of the seat on the nut");
    if (!out.missing.empty()) return out;
    const double root = screw->root_diameter.value_or(0);
    const bool nut_turns = screw->turns == ScrewTurns::nut;
    Built near = build(e.drive_end, "drive end", root, out.warnings),
          far = build(e.far_end, "far end", root, out.warnings);
    const double thread = stroke + e.nut_length.si + 2 * e.margin.value_or(0);
    out.stroke = stroke;
    out.thread_from = near.length;
    out.thread_to = near.length + thread;
    out.length = out.thread_to + far.length;
    out.sections = near.sections;
    out.sections.push_back({SectionOf::screw, out.thread_from, out.thread_to, screw->diameter.si, false});
    for (auto it = far.sections.rbegin(); it != far.sections.rend(); ++it)
        out.sections.push_back({it->of, out.length - it->to, out.length - it->from, it->diameter, true});
    out.grooves = near.grooves;
    for (const ScrewGroove& g : far.grooves)
        out.grooves.push_back({out.length - g.at - g.width, g.width, g.diameter, g.ring});
    const auto flats = [&](const ScrewEnd& end, bool at_far) {
        if (!end.flats.given()) return;
        const double l = end.flats_length.value_or(end.flats.si / 2);
        // on the journal, at its inner end; without one on the thread
        const bool journal = end.journal_diameter.given();
        const double across = end.flats.si, on = journal ? end.journal_diameter.si : screw->diameter.si;
        if (across >= on)
            out.warnings.push_back(Text(at_far ? "far end: " : "drive end: ") + "flats of " + length_text(across) +
                                   " across leave nothing to hold on a diameter of " + length_text(on));
        const double inner = journal ? end.journal_length.value_or(2 * end.journal_diameter.si)
                                     : (at_far ? far.length : near.length) + l;
        out.flats.push_back(at_far ? ScrewFlats{out.length - inner, out.length - inner + l, across}
                                   : ScrewFlats{inner - l, inner, across});
    };
    flats(e.drive_end, false);
    flats(e.far_end, true);
    if (nut_turns) plan_nut(*screw, out);
    const double first = near.seat_middle, last = far.seat ? out.length - far.seat_middle : out.length;
    out.first_bearing = first;
    out.free_length = last - first;
    // the nut's middle travels between the margins
    const double begin = out.thread_from + e.margin.value_or(0) + e.nut_length.si / 2, end = begin + stroke;
    out.loaded_length = end - first;
    const double nan = no_number;
    std::vector<ShaftStretch> shaft;
    for (const ScrewSection& part : out.sections)
        shaft.push_back({part.to - part.from, part.of == SectionOf::screw ? root : part.diameter});
    std::vector<ShaftSupport> bearings{{first, screw->fixity != EndFixity::supported_supported}};
    if (!free_end) bearings.push_back({last, screw->fixity == EndFixity::fixed_fixed});
    const bool whirls = !nut_turns && root > 0 && screw->elastic_modulus.given() && screw->density.given();
    const auto bends = [&](const std::vector<ShaftSupport>& held) {
        return whirls ? bending_frequency(shaft, held, screw->elastic_modulus.si, screw->density.si) : nan;
    };
    out.critical_speed = bends(bearings);
    for (int i = 0; i <= 10; ++i) {
        const double at = stroke * i / 10, loaded = begin + at - first;
        const double yield =
            screw->yield_strength.given() ? screw->yield_strength.si : std::numeric_limits<double>::infinity();
        out.places.push_back({at, loaded,
            root > 0 && screw->elastic_modulus.given()
                ? compression_load(root, loaded, screw->elastic_modulus.si, yield, screw->fixity)
                : nan,
            no_number});
        std::vector<ShaftSupport> held = bearings;
        held.push_back({begin + at, false});
        out.places.back().critical_speed = bends(held);
    }
    if (std::isfinite(out.critical_speed)) {
        const double plain =
            critical_speed(root, out.free_length, screw->elastic_modulus.si, screw->density.si, screw->fixity);
        if (out.critical_speed < 0.9 * plain)
            out.warnings.push_back(Text("the thinner ends lower the critical speed to ") +
                                   Text::of(out.critical_speed, Kind::angular_speed) +
                                   "; a plain bar of root diameter between the bearings has " +
                                   Text::of(plain, Kind::angular_speed));
    }
    const QuantityBase& driving = axis.stages.empty() ? axis.motor.shaft_diameter : axis.stages.back().output_shaft;
    const bool coupled = axis.coupling.there() &&
                         axis.coupling.place == (axis.stages.empty() ? axis.coupling.place : CouplingPlace::mechanism);
    const double journal = e.drive_end.journal_diameter.value_or(nan);
    if (!nut_turns && (axis.driven() || !axis.stages.empty()) && driving.given() && std::isfinite(journal) &&
        std::abs(journal - driving.si) > 1e-3 * driving.si)
        out.warnings.push_back(Text("the journal of ") + length_text(journal) + " and the shaft it is coupled to, " +
                               length_text(driving.si) + ", differ: equal diameters save a special coupling");
    if (!nut_turns && coupled && std::isfinite(journal) && axis.coupling.driven_shaft.given() &&
        std::abs(journal - axis.coupling.driven_shaft.si) > 1e-3 * journal)
        out.warnings.push_back(Text("the coupling is told a shaft of ") + length_text(axis.coupling.driven_shaft.si) +
                               " on the load's side; the journal has " + length_text(journal));
    const auto holds = [&](const QuantityBase& typed, double planned, const char* what) {
        if (typed.given() && std::abs(typed.si - planned) > 0.01 * planned)
            out.warnings.push_back(Text("the ") + what + " is typed as " + length_text(typed.si) +
                                   "; the plan comes to " + length_text(planned));
    };
    holds(screw->length, out.length, "screw length");
    holds(screw->free_length, out.free_length, "unsupported length");
    holds(screw->loaded_length, out.loaded_length, "loaded length");
    const bool fixed = screw->fixity != EndFixity::supported_supported;
    if (fixed && e.drive_end.retained == Retained::nothing)
        out.warnings.push_back("drive end: a fixed bearing needs a lock nut or a ring");
    if (screw->fixity == EndFixity::fixed_fixed && e.far_end.retained == Retained::nothing)
        out.warnings.push_back("far end: a fixed bearing needs a lock nut or a ring");
    if (screw->fixity == EndFixity::fixed_fixed && screw->temperature_rise.value_or(0) > 0)
        out.warnings.push_back("both ends are fixed: a warm screw cannot grow, and presses on its bearings");
    return out;
}

} // namespace fulmox
