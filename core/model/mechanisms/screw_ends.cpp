#include "core/model/mechanisms/screw_ends.h"

#include "core/model/visitor.h"

namespace fulmox {

void ScrewEnd::describe(FieldVisitor& v) { describe(v, false, true); }
void NutBody::describe(FieldVisitor& v) { ScrewEnd::describe(v, true, turns); }

void ScrewEnd::describe(FieldVisitor& v, bool of_nut, bool all) {
    const auto field = [all](const char* key, const char* label, const char* help, const IfEmpty& if_empty,
                           const char* symbol, bool applies = true) {
        QuantitySpec s = optional_quantity(key, label, "mm", 10000, help, if_empty, symbol, need::record);
        s.applies = all && applies;
        return s;
    };
    v.quantity(seat_diameter,
        field("seat_diameter", "Bearing seat", "Diameter under the bearing.", left_empty::not_asked("no seat"), "d_s"));
    const bool seat = seat_diameter.given();
    v.quantity(seat_length, field("seat_length", "Seat length",
                                "Shorter than its bearings, so that what retains them presses on them and not on the "
                                "shaft.",
                                left_empty::stands_in("as wide as the bearing"), "l_s", seat));
    v.quantity(bearing_width, field("bearing_width", "Bearing width", "Of all bearings on the seat together.",
                                  left_empty::not_asked("not checked"), "B", seat));
    QuantitySpec s = field("undercut", "Undercut",
        "Width of the groove in the corner, without which a bearing does not lie flat against the shoulder.",
        left_empty::zero("none"), "b_u", seat);
    s.range.open_min = false;
    v.quantity(undercut, s);
    v.choice(retained, {"retained", "Bearing retained by", retaining,
                           "A fixed bearing needs one; a floating one may move.", true, all && seat, 0, need::record});
    const bool nut = seat && retained == Retained::lock_nut;
    v.quantity(lock_thread, field("lock_thread", "Lock-nut thread", "Its outer diameter.",
                                left_empty::stands_in("as the seat"), "d_n", nut));
    v.quantity(lock_pitch,
        field("lock_pitch", "Lock-nut pitch", "Fine, as of M15 × 1.", left_empty::not_asked("not shown"), "p_n", nut));
    v.quantity(lock_length, field("lock_length", "Thread length", "Of the lock-nut thread.",
                                left_empty::stands_in("as its diameter"), "l_n", nut));
    v.quantity(journal_diameter,
        field("journal_diameter", of_nut ? "Pulley seat" : "Journal",
            of_nut ? "Diameter that the pulley sits on." : "Diameter that coupling or pulley sits on.",
            left_empty::not_asked(of_nut ? "no pulley" : "no journal"), "d_j"));
    const bool journal = journal_diameter.given();
    v.quantity(journal_length, field("journal_length", of_nut ? "Pulley seat length" : "Journal length",
                                   of_nut ? "As wide as the pulley's hub." : "For coupling or pulley.",
                                   left_empty::stands_in("twice its diameter"), "l_j", journal));
    v.choice(holds, {"holds", of_nut ? "Pulley held" : "Journal holds", holding,
                        "Clamping holds better and does not mark the shaft.", true, all && journal, 0, need::record});
    v.quantity(
        flats, field("flats", "Wrench flats", "Across, for a wrench that holds the screw while the nut is tightened.",
                   left_empty::not_asked("none"), "s_w", !of_nut));
    v.quantity(flats_length, field("flats_length", "Flats length", "Along the screw.",
                                 left_empty::stands_in("half the width across"), "l_w", !of_nut && flats.given()));
}

void ScrewEnds::describe(FieldVisitor& v) {
    QuantitySpec s = optional_quantity("nut_length", "Nut or carriage", "mm", 10000,
        "Length along the screw of what travels on it, whichever meets its stops first.",
        left_empty::unknown("not known"), "l_c", need::record);
    v.quantity(nut_length, s);
    s = optional_quantity("margin", "End margins", "mm", 10000, "Beyond the stroke, at either end.",
        left_empty::zero("none"), "l_m", need::record);
    s.range.open_min = false;
    v.quantity(margin, s);
    v.group(drive_end, {"drive_end", "Drive end"});
    v.group(far_end, {"far_end", "Far end"});
}

} // namespace fulmox
