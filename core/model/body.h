// Bodies: shape, material, place. Handbook formulas of mass and moment of inertia in core/load/bodies.
#pragma once

#include "core/model/field.h"

#include <variant>
#include <vector>

namespace fulmox {

/// About its own axis.
struct SolidCylinder {
    static constexpr const char* kind_key = "cylinder";
    static constexpr const char* kind_label = "Solid cylinder";
    Quantity<Kind::length> diameter;
    Quantity<Kind::length> length;
    Extra extra;
    bool operator==(const SolidCylinder&) const = default;

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.quantity(s.diameter, {.key = "diameter",
                                   .label = "Diameter",
                                   .unit = "mm",
                                   .range = {0, 1e5, true},
                                   .help = "Of the body, not its radius.",
                                   .symbol = "d"});
        v.quantity(s.length, {.key = "length",
                                 .label = "Length",
                                 .unit = "mm",
                                 .range = {0, 1e5, true},
                                 .help = "Along its own axis.",
                                 .symbol = "L"});
    }
};

/// About its own axis.
struct HollowCylinder {
    static constexpr const char* kind_key = "hollow_cylinder";
    static constexpr const char* kind_label = "Hollow cylinder";
    Quantity<Kind::length> outer_diameter;
    Quantity<Kind::length> inner_diameter;
    Quantity<Kind::length> length;
    Extra extra;
    bool operator==(const HollowCylinder&) const = default;

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.quantity(s.outer_diameter, {.key = "outer_diameter",
                                         .label = "Outer diameter",
                                         .unit = "mm",
                                         .range = {0, 1e5, true},
                                         .help = "Of the tube or ring.",
                                         .symbol = "D"});
        v.quantity(s.inner_diameter, {.key = "inner_diameter",
                                         .label = "Inner diameter",
                                         .unit = "mm",
                                         .range = {0, 1e5, true},
                                         .help = "Of the bore; smaller than the outer.",
                                         .symbol = "d"});
        v.quantity(s.length, {.key = "length",
                                 .label = "Length",
                                 .unit = "mm",
                                 .range = {0, 1e5, true},
                                 .help = "Along its own axis.",
                                 .symbol = "L"});
    }
};

/// About its own axis; needs a mass.
struct ThinRing {
    static constexpr const char* kind_key = "ring";
    static constexpr const char* kind_label = "Thin ring";
    Quantity<Kind::length> diameter;
    Extra extra;
    bool operator==(const ThinRing&) const = default;

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.quantity(s.diameter, {.key = "diameter",
                                   .label = "Mean diameter",
                                   .unit = "mm",
                                   .range = {0, 1e5, true},
                                   .help = "Of the rim; its mass must be given.",
                                   .symbol = "d"});
    }
};

/// About a transverse axis through its centre.
struct CrossCylinder {
    static constexpr const char* kind_key = "cross_cylinder";
    static constexpr const char* kind_label = "Cylinder across the axis";
    Quantity<Kind::length> diameter;
    Quantity<Kind::length> length;
    Extra extra;
    bool operator==(const CrossCylinder&) const = default;

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.quantity(s.diameter, {.key = "diameter",
                                   .label = "Diameter",
                                   .unit = "mm",
                                   .range = {0, 1e5, true},
                                   .help = "Of the body, not its radius.",
                                   .symbol = "d"});
        v.quantity(s.length, {.key = "length",
                                 .label = "Length",
                                 .unit = "mm",
                                 .range = {0, 1e5, true},
                                 .help = "Along its own axis.",
                                 .symbol = "L"});
    }
};

/// About an axis parallel to its height through its centre.
struct Block {
    static constexpr const char* kind_key = "block";
    static constexpr const char* kind_label = "Block";
    Quantity<Kind::length> length;
    Quantity<Kind::length> width;
    Quantity<Kind::length> height;
    Extra extra;
    bool operator==(const Block&) const = default;

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.quantity(s.length, {.key = "length",
                                 .label = "Length",
                                 .unit = "mm",
                                 .range = {0, 1e5, true},
                                 .help = "Across the axis, one way.",
                                 .symbol = "a"});
        v.quantity(s.width, {.key = "width",
                                .label = "Width",
                                .unit = "mm",
                                .range = {0, 1e5, true},
                                .help = "Across the axis, the other way.",
                                .symbol = "b"});
        v.quantity(s.height, {.key = "height",
                                 .label = "Height",
                                 .unit = "mm",
                                 .range = {0, 1e5, true},
                                 .help = "Along the axis.",
                                 .symbol = "c"});
    }
};

/// Thin, about a transverse axis through its centre; offset by L/2 for its end.
struct Rod {
    static constexpr const char* kind_key = "rod";
    static constexpr const char* kind_label = "Rod across the axis";
    Quantity<Kind::length> length;
    Extra extra;
    bool operator==(const Rod&) const = default;

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.quantity(s.length, {.key = "length",
                                 .label = "Length",
                                 .unit = "mm",
                                 .range = {0, 1e5, true},
                                 .help = "Across the axis; its mass must be given.",
                                 .symbol = "L"});
    }
};

/// Solid.
struct Sphere {
    static constexpr const char* kind_key = "sphere";
    static constexpr const char* kind_label = "Sphere";
    Quantity<Kind::length> diameter;
    Extra extra;
    bool operator==(const Sphere&) const = default;

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.quantity(s.diameter, {.key = "diameter",
                                   .label = "Diameter",
                                   .unit = "mm",
                                   .range = {0, 1e5, true},
                                   .help = "Of the body, not its radius.",
                                   .symbol = "d"});
    }
};

/// Solid, about its own axis.
struct Cone {
    static constexpr const char* kind_key = "cone";
    static constexpr const char* kind_label = "Cone";
    Quantity<Kind::length> diameter;
    Quantity<Kind::length> height;
    Extra extra;
    bool operator==(const Cone&) const = default;

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.quantity(s.diameter, {.key = "diameter",
                                   .label = "Base diameter",
                                   .unit = "mm",
                                   .range = {0, 1e5, true},
                                   .help = "Of the base.",
                                   .symbol = "d"});
        v.quantity(s.height, {.key = "height",
                                 .label = "Height",
                                 .unit = "mm",
                                 .range = {0, 1e5, true},
                                 .help = "Along its own axis.",
                                 .symbol = "h"});
    }
};

/// All of its inertia comes from its offset.
struct PointMass {
    static constexpr const char* kind_key = "point";
    static constexpr const char* kind_label = "Point mass";
    Extra extra;
    bool operator==(const PointMass&) const = default;

    template <class Self, class V> static void describe(Self& s, V& v) {
        static_cast<void>(s);
        static_cast<void>(v);
    }
};

/// From a catalogue or CAD.
struct KnownInertia {
    static constexpr const char* kind_key = "known";
    static constexpr const char* kind_label = "Known inertia";
    Quantity<Kind::inertia> inertia;
    Extra extra;
    bool operator==(const KnownInertia&) const = default;

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.quantity(s.inertia, {.key = "inertia",
                                  .label = "Inertia",
                                  .unit = "kg·cm²",
                                  .range = {0, 1e10},
                                  .help = "From a catalogue or CAD, about the axis through its centre of mass.",
                                  .symbol = "J"});
    }
};

using BodyShape = std::variant<SolidCylinder, HollowCylinder, ThinRing, CrossCylinder, Block, Rod, Sphere, Cone,
    PointMass, KnownInertia>;

enum class BodyPlace { load, shaft };

/// One body of a composition. A hole is a negative body.
struct Body {
    std::string name;
    BodyShape shape;
    BodyPlace place = BodyPlace::load;
    bool hole = false;
    std::string material = "Steel";
    Quantity<Kind::mass> mass;
    Quantity<Kind::number> count{"1"};
    Quantity<Kind::length> offset;
    Quantity<Kind::angle> offset_angle;
    Extra extra;
    bool operator==(const Body&) const = default;

    static constexpr Option places[] = {{"load", "moves with the load"}, {"shaft", "turns with the input shaft"}};

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.text(s.name, {"name", "Name", "What it is."});
        v.variant(s.shape, {"shape", "Shape"});
        v.choice(s.place, {"place", "Place", places,
                              "On a linear axis a body moves with the load or turns with the shaft; on a rotary axis "
                              "what it carries is load, the table, drum or arm itself is of the shaft.",
                              true});
        v.flag(s.hole, {"hole", "A hole", "Taken away instead of added."});
        v.text(s.material, {"material", "Material", "By its name in the table of materials; gives the density."});
        v.quantity(s.mass, {.key = "mass",
                               .label = "Mass, if known",
                               .unit = "kg",
                               .range = {0, 1e6, true},
                               .help = "Weighed or from CAD; else from shape and material.",
                               .required = false,
                               .if_empty = "from its shape",
                               .symbol = "m"});
        v.quantity(
            s.count, {.key = "count",
                         .label = "How many",
                         .unit = "1",
                         .range = {1, 10000},
                         .help = "Equal bodies at the same distance from the axis, spread evenly when more than one.",
                         .rare = true,
                         .symbol = "n"});
        v.quantity(s.offset, {.key = "offset",
                                 .label = "Offset from the axis",
                                 .unit = "mm",
                                 .range = {0, 1e5},
                                 .help = "Distance of its centre of mass from the axis it turns about.",
                                 .required = false,
                                 .if_empty = "on the axis",
                                 .symbol = "e"});
        v.quantity(s.offset_angle, {.key = "offset_angle",
                                       .label = "Angle of the offset",
                                       .unit = "deg",
                                       .range = {-360, 360},
                                       .help = "Where it stands about the axis when the axis is at 0.",
                                       .required = false,
                                       .if_empty = "0",
                                       .rare = true,
                                       .symbol = "φ"});
    }
};

struct Material {
    std::string name;
    Quantity<Kind::density> density;
    Extra extra;
    bool operator==(const Material&) const = default;

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.text(s.name, {"name", "Material", "Bodies name it."});
        v.quantity(s.density, {.key = "density",
                                  .label = "Density",
                                  .unit = "kg/m³",
                                  .range = {0, 30000, true},
                                  .typical = {100, 20000},
                                  .help = "Handbook values of solid material.",
                                  .source = "handbook value",
                                  .symbol = "ρ"});
    }
};

/// Handbook densities; the user may change them and add more.
std::vector<Material> shipped_materials();

} // namespace fulmox
