// What the ends of a screw are turned to: journals, seats, threads, grooves.
#pragma once

#include "core/model/field.h"

namespace fulmox {

enum class Retained { nothing, lock_nut, ring };
enum class JournalHolds { clamp, key };

/// One end, from the thread of the screw outwards: seat of the bearing, what retains it, journal.
struct ScrewEnd {
    Quantity<Kind::length> seat_diameter;
    Quantity<Kind::length> seat_length;
    Quantity<Kind::length> bearing_width; ///< of all bearings on the seat
    Quantity<Kind::length> undercut;      ///< width, in the corner between seat and shoulder
    Retained retained = Retained::nothing;
    Quantity<Kind::length> lock_thread; ///< diameter of the lock nut's thread
    Quantity<Kind::length> lock_pitch;
    Quantity<Kind::length> lock_length;
    Quantity<Kind::length> journal_diameter;
    Quantity<Kind::length> journal_length;
    JournalHolds holds = JournalHolds::clamp;
    Quantity<Kind::length> flats; ///< across, for a wrench
    Quantity<Kind::length> flats_length;
    Extra extra;
    bool operator==(const ScrewEnd&) const = default;

    static constexpr Option retaining[] = {
        {"nothing", "nothing"}, {"lock_nut", "a lock nut"}, {"ring", "a ring, DIN 471"}};
    static constexpr Option holding[] = {{"clamp", "clamped"}, {"key", "with a key"}};
    bool said() const { return seat_diameter.given() || journal_diameter.given(); }

    void describe(FieldVisitor& v);

  protected:
    void describe(FieldVisitor& v, bool of_nut, bool applies);
};

/// What a nut that turns carries on its outside: the seat of its bearings, and as journal that of its pulley.
struct NutBody : ScrewEnd {
    bool turns = false; ///< told by the screw when it is described; else none of it counts
    bool operator==(const NutBody& o) const { return ScrewEnd::operator==(o); }

    void describe(FieldVisitor& v);
};

/// The plan of a whole screw.
struct ScrewEnds {
    Quantity<Kind::length> nut_length; ///< or of the carriage, where that meets its stops first
    Quantity<Kind::length> margin;     ///< at either end of the stroke
    ScrewEnd drive_end, far_end;
    Extra extra;
    bool operator==(const ScrewEnds&) const = default;
    bool said() const { return drive_end.said() || far_end.said(); }

    void describe(FieldVisitor& v);
};

} // namespace fulmox
