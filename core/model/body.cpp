#include "core/model/body.h"

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

} // namespace fulmox
