// What the members of the JSON of an assessment mean; the keys of results, limits and cautions are in their registries.
#pragma once

#include <string>
#include <vector>

namespace fulmox {

struct JsonMember {
    const char* object; ///< "stages[]"; empty: wherever it stands
    const char* key;
    const char* meaning;
};
const std::vector<JsonMember>& json_members();

/// Objects whose members are documented together.
struct JsonObject {
    const char* key; ///< "coupling"
    const char* title;
    const char* about; ///< of the numbers in it, and when it is null
};
const std::vector<JsonObject>& json_objects();

/// All of it as JSON: `results`, `limits`, `cautions`, `members`, `objects`.
std::string formats_json();

} // namespace fulmox
