// Any bytes give an error in words or a trace of rising times, whose smoothing is finite.
#include "core/files/trace_file.h"
#include "core/motion/trace.h"

#include <cmath>
#include <cstdlib>

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
    using namespace fulmox;
    if (size == 0) return 0;
    const bool rotary = data[0] % 2 == 1;
    const Motion motion{rotary, false, false, rotary ? 0 : Motion::carriage};
    const auto read = read_trace(std::string_view(reinterpret_cast<const char*>(data) + 1, size - 1), motion);
    if (!read) {
        if (read.error().message.empty()) std::abort();
        return 0;
    }
    const Samples& s = read->trace.samples;
    if (s.rows() < 5 || s.at(0, 0) != 0) std::abort();
    for (std::size_t i = 0; i < s.rows(); ++i)
        if (!std::isfinite(s.at(i, 1)) || (i > 0 && !(s.at(i, 0) > s.at(i - 1, 0)))) std::abort();
    for (const Piece& p : trace_pieces(read->trace))
        if (std::isnan(p.position(0)) || std::isnan(p.velocity(0))) std::abort();
    return 0;
}
