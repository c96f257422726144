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

    void describe(FieldVisitor& v);
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

    void describe(FieldVisitor& v);
};

/// About its own axis; needs a mass.
struct ThinRing {
    static constexpr const char* kind_key = "ring";
    static constexpr const char* kind_label = "Thin ring";
    Quantity<Kind::length> diameter;
    Extra extra;
    bool operator==(const ThinRing&) const = default;

    void describe(FieldVisitor& v);
};

/// About a transverse axis through its centre.
struct CrossCylinder {
    static constexpr const char* kind_key = "cross_cylinder";
    static constexpr const char* kind_label = "Cylinder across the axis";
    Quantity<Kind::length> diameter;
    Quantity<Kind::length> length;
    Extra extra;
    bool operator==(const CrossCylinder&) const = default;

    void describe(FieldVisitor& v);
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

    void describe(FieldVisitor& v);
};

/// Thin, about a transverse axis through its centre; offset by L/2 for its end.
struct Rod {
    static constexpr const char* kind_key = "rod";
    static constexpr const char* kind_label = "Rod across the axis";
    Quantity<Kind::length> length;
    Extra extra;
    bool operator==(const Rod&) const = default;

    void describe(FieldVisitor& v);
};

/// Solid.
struct Sphere {
    static constexpr const char* kind_key = "sphere";
    static constexpr const char* kind_label = "Sphere";
    Quantity<Kind::length> diameter;
    Extra extra;
    bool operator==(const Sphere&) const = default;

    void describe(FieldVisitor& v);
};

/// Solid, about its own axis.
struct Cone {
    static constexpr const char* kind_key = "cone";
    static constexpr const char* kind_label = "Cone";
    Quantity<Kind::length> diameter;
    Quantity<Kind::length> height;
    Extra extra;
    bool operator==(const Cone&) const = default;

    void describe(FieldVisitor& v);
};

/// All of its inertia comes from its offset.
struct PointMass {
    static constexpr const char* kind_key = "point";
    static constexpr const char* kind_label = "Point mass";
    Extra extra;
    bool operator==(const PointMass&) const = default;

    void describe(FieldVisitor& v);
};

/// From a catalogue or CAD.
struct KnownInertia {
    static constexpr const char* kind_key = "known";
    static constexpr const char* kind_label = "Known inertia";
    Quantity<Kind::inertia> inertia;
    Extra extra;
    bool operator==(const KnownInertia&) const = default;

    void describe(FieldVisitor& v);
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

    void describe(FieldVisitor& v);
};

struct Material {
    std::string name;
    Quantity<Kind::density> density;
    Extra extra;
    bool operator==(const Material&) const = default;

    void describe(FieldVisitor& v);
};

/// Handbook densities; the user may change them and add more.
std::vector<Material> shipped_materials();

} // namespace fulmox
