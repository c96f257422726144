// Any text gives a finite value or an error in words; a bare number with its unit written out means the same.
#include "core/quantity/expression.h"

#include <cmath>
#include <cstdlib>

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
    using namespace fulmox;
    if (size == 0) return 0;
    const Kind kind = static_cast<Kind>(data[0] % static_cast<unsigned>(kind_count()));
    const std::string_view text(reinterpret_cast<const char*>(data) + 1, size - 1);
    const Unit& bare = *units_of(kind).back();
    const auto r = read_quantity(text, kind, bare);
    if (!r) {
        if (r.error().message.empty()) std::abort();
        return 0;
    }
    if (!std::isfinite(r->si) || !(r->tolerance >= 0)) std::abort();
    const std::string full = with_unit(text, *r);
    if (full.size() <= 400) {
        const auto again = read_quantity(full, kind, bare);
        if (!again || std::abs(again->si - r->si) > 1e-9 * std::abs(r->si)) std::abort();
    }
    evaluate(text);
    return 0;
}
