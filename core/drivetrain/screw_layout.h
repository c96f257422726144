// The plan of a screw with its ends: where what begins and ends, what does not go together, and the drawing to scale.
#pragma once

#include "core/model/axis.h"
#include "core/quantity/not_finite.h"
#include "core/quantity/text.h"

#include <string>
#include <vector>

namespace fulmox {

/// Retaining-ring groove of a shaft, mm. Source: DIN 471, from memory.
struct RingGroove {
    double shaft;    ///< d1
    double ring;     ///< s, thickness of the ring
    double diameter; ///< d2 of the groove
    double width;    ///< m
    double edge;     ///< n, least distance from the groove to the end of the shaft
};
/// Normal sizes from 8 to 60 mm.
const std::vector<RingGroove>& ring_grooves();
/// That of this shaft, m; null: there is no such normal size.
const RingGroove* ring_groove(double shaft);

enum class SectionOf { journal, lock_thread, seat, screw };

/// A stretch of one diameter, m from the outer end of the drive side.
struct ScrewSection {
    SectionOf of;
    double from, to, diameter;
    bool far = false; ///< at the far end
};
/// A groove that is turned into a section.
struct ScrewGroove {
    double at, width, diameter; ///< m; from `at` on
    bool ring = false;          ///< for a retaining ring; else an undercut
};
struct ScrewFlats {
    double from, to, across;
};

struct ScrewLayout {
    std::vector<ScrewSection> sections; ///< from the drive end
    std::vector<ScrewGroove> grooves;
    std::vector<ScrewFlats> flats;
    double length = 0; ///< m, whole
    double thread_from = 0, thread_to = 0;
    double first_bearing = 0; ///< its middle
    double free_length = 0;   ///< between the middles of the seats, or from one to the free end
    double loaded_length = 0; ///< from the fixed bearing to the nut at the far end of its stroke
    double stroke = 0;
    std::string missing;        ///< what the plan waits for, in words; then the rest is empty
    std::vector<Text> warnings; ///< what does not go together
    /// rad/s, of all its diameters on its bearings, overhanging journals included, without what sits on them; NaN
    /// where root diameter, modulus or density is not known, or where the screw stands and the nut turns.
    double critical_speed = no_number;
    /// Along the stroke: how far the nut stands, the axial load that buckles the screw there, N, and the critical
    /// speed, rad/s, where the nut is taken for one more bearing that holds the screw in its line.
    struct Place {
        double at, loaded, buckling, critical_speed;
    };
    /// A nut that turns, from its outer end; else none.
    std::vector<ScrewSection> nut_sections;
    std::vector<ScrewGroove> nut_grooves;
    double nut_bore = 0;
    std::vector<Place> places;
};

/// `stroke` m; NaN where the cycle is not known.
ScrewLayout screw_layout(const Axis& axis, double stroke);

/// A drawing in mm: lines and words on layers, x to the right and y up.
struct Drawing {
    struct Line {
        double x1, y1, x2, y2;
        const char* layer;
    };
    struct Word {
        double x, y, height;
        std::string text;
        const char* layer;
        int anchor = 0; ///< −1 begins at x, 0 is centred, 1 ends there
    };
    std::vector<Line> lines;
    std::vector<Word> words;
    double left = 0, bottom = 0, right = 0, top = 0;
};
/// The screw with its dimensions; a long thread is broken, so that the ends can be read. Dimensions are true.
Drawing screw_drawing(const ScrewLayout& layout, const std::string& title);
std::string drawing_svg(const Drawing& d);
/// ASCII interchange of release 12, LINE and TEXT entities alone, in mm; what readers of that form all know.
std::string drawing_dxf(const Drawing& d);

} // namespace fulmox
