#include "core/model/body.h"

#include "core/model/visitor.h"

#include <utility>

namespace fulmox {

std::vector<Material> shipped_materials() {
    // handbook values
    static constexpr std::pair<const char*, const char*> table[] = {{"Steel", "7850 kg/m³"},
        {"Stainless steel", "7900 kg/m³"}, {"Cast iron", "7200 kg/m³"}, {"Aluminium alloy", "2700 kg/m³"},
        {"Brass", "8500 kg/m³"}, {"Bronze", "8800 kg/m³"}, {"Titanium alloy", "4430 kg/m³"}, {"POM", "1410 kg/m³"},
        {"PA 6", "1140 kg/m³"}, {"Acrylic", "1190 kg/m³"}, {"Granite", "2700 kg/m³"}, {"Hardwood", "700 kg/m³"},
        {"Water", "998 kg/m³"}, {"Glass", "2500 kg/m³"}};
    std::vector<Material> out;
    for (const auto& [name, density] : table) {
        Material m;
        m.name = name;
        m.density = Quantity<Kind::density>(density);
        out.push_back(std::move(m));
    }
    return out;
}

void SolidCylinder::describe(FieldVisitor& v) {
    v.quantity(diameter, {.key = "diameter",
                             .label = "Diameter",
                             .unit = "mm",
                             .range = {0, 1e5, true},
                             .help = "Of the body, not its radius.",
                             .symbol = "d"});
    v.quantity(length, {.key = "length",
                           .label = "Length",
                           .unit = "mm",
                           .range = {0, 1e5, true},
                           .help = "Along its own axis.",
                           .symbol = "L"});
}

void HollowCylinder::describe(FieldVisitor& v) {
    v.quantity(outer_diameter, {.key = "outer_diameter",
                                   .label = "Outer diameter",
                                   .unit = "mm",
                                   .range = {0, 1e5, true},
                                   .help = "Of the tube or ring.",
                                   .symbol = "D"});
    v.quantity(inner_diameter, {.key = "inner_diameter",
                                   .label = "Inner diameter",
                                   .unit = "mm",
                                   .range = {0, 1e5, true},
                                   .help = "Of the bore; smaller than the outer.",
                                   .symbol = "d"});
    v.quantity(length, {.key = "length",
                           .label = "Length",
                           .unit = "mm",
                           .range = {0, 1e5, true},
                           .help = "Along its own axis.",
                           .symbol = "L"});
}

void ThinRing::describe(FieldVisitor& v) {
    v.quantity(diameter, {.key = "diameter",
                             .label = "Mean diameter",
                             .unit = "mm",
                             .range = {0, 1e5, true},
                             .help = "Of the rim; its mass must be given.",
                             .symbol = "d"});
}

void CrossCylinder::describe(FieldVisitor& v) {
    v.quantity(diameter, {.key = "diameter",
                             .label = "Diameter",
                             .unit = "mm",
                             .range = {0, 1e5, true},
                             .help = "Of the body, not its radius.",
                             .symbol = "d"});
    v.quantity(length, {.key = "length",
                           .label = "Length",
                           .unit = "mm",
                           .range = {0, 1e5, true},
                           .help = "Along its own axis.",
                           .symbol = "L"});
}

void Block::describe(FieldVisitor& v) {
    v.quantity(length, {.key = "length",
                           .label = "Length",
                           .unit = "mm",
                           .range = {0, 1e5, true},
                           .help = "Across the axis, one way.",
                           .symbol = "a"});
    v.quantity(width, {.key = "width",
                          .label = "Width",
                          .unit = "mm",
                          .range = {0, 1e5, true},
                          .help = "Across the axis, the other way.",
                          .symbol = "b"});
    v.quantity(height, {.key = "height",
                           .label = "Height",
                           .unit = "mm",
                           .range = {0, 1e5, true},
                           .help = "Along the axis.",
                           .symbol = "c"});
}

void Rod::describe(FieldVisitor& v) {
    v.quantity(length, {.key = "length",
                           .label = "Length",
                           .unit = "mm",
                           .range = {0, 1e5, true},
                           .help = "Across the axis; its mass must be given.",
                           .symbol = "L"});
}

void Sphere::describe(FieldVisitor& v) {
    v.quantity(diameter, {.key = "diameter",
                             .label = "Diameter",
                             .unit = "mm",
                             .range = {0, 1e5, true},
                             .help = "Of the body, not its radius.",
                             .symbol = "d"});
}

void Cone::describe(FieldVisitor& v) {
    v.quantity(diameter, {.key = "diameter",
                             .label = "Base diameter",
                             .unit = "mm",
                             .range = {0, 1e5, true},
                             .help = "Of the base.",
                             .symbol = "d"});
    v.quantity(height, {.key = "height",
                           .label = "Height",
                           .unit = "mm",
                           .range = {0, 1e5, true},
                           .help = "Along its own axis.",
                           .symbol = "h"});
}

void PointMass::describe(FieldVisitor&) {}

void KnownInertia::describe(FieldVisitor& v) {
    v.quantity(inertia, {.key = "inertia",
                            .label = "Inertia",
                            .unit = "kg·cm²",
                            .range = {0, 1e10},
                            .help = "From a catalogue or CAD, about the axis through its centre of mass.",
                            .symbol = "J"});
}

void Body::describe(FieldVisitor& v) {
    v.text(name, {"name", "Name", "What it is."});
    v.variant(shape, {"shape", "Shape"});
    v.choice(place, {"place", "Place", places,
                        "On a linear axis a body moves with the load or turns with the shaft; on a rotary axis "
                        "what it carries is load, the table, drum or arm itself is of the shaft.",
                        true});
    v.flag(hole, {"hole", "A hole", "Taken away instead of added."});
    v.text(material, {"material", "Material", "By its name in the table of materials; gives the density."});
    v.quantity(mass, {.key = "mass",
                         .label = "Mass, if known",
                         .unit = "kg",
                         .range = {0, 1e6, true},
                         .help = "Weighed or from CAD; else from shape and material.",
                         .required = false,
                         .if_empty = left_empty::stands_in("from its shape"),
                         .symbol = "m"});
    v.quantity(count, {.key = "count",
                          .label = "How many",
                          .unit = "1",
                          .range = {1, 10000},
                          .help = "Equal bodies at the same distance from the axis, spread evenly when more than one.",
                          .rare = true,
                          .symbol = "n"});
    v.quantity(offset, {.key = "offset",
                           .label = "Offset from the axis",
                           .unit = "mm",
                           .range = {0, 1e5},
                           .help = "Distance of its centre of mass from the axis it turns about.",
                           .required = false,
                           .if_empty = left_empty::stands_in("on the axis"),
                           .symbol = "e"});
    v.quantity(offset_angle, {.key = "offset_angle",
                                 .label = "Angle of the offset",
                                 .unit = "deg",
                                 .range = {-360, 360},
                                 .help = "Where it stands about the axis when the axis is at 0.",
                                 .required = false,
                                 .if_empty = left_empty::zero("0"),
                                 .rare = true,
                                 .symbol = "φ"});
}

void Material::describe(FieldVisitor& v) {
    v.text(name, {"name", "Material", "Bodies name it."});
    v.quantity(density, {.key = "density",
                            .label = "Density",
                            .unit = "kg/m³",
                            .range = {0, 30000, true},
                            .typical = {100, 20000},
                            .help = "Handbook values of solid material.",
                            .source = "handbook value",
                            .symbol = "ρ"});
}

} // namespace fulmox
