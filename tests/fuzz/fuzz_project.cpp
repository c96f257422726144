// Any bytes give an error in words or a project; a project writes to a text that reads back as itself, and is assessed
// without a crash.
#include "core/files/project.h"
#include "core/match/assess.h"

#include <cstdlib>

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
    using namespace fulmox;
    const auto read = read_project(std::string_view(reinterpret_cast<const char*>(data), size));
    if (!read) {
        if (read.error().message.empty()) std::abort();
        return 0;
    }
    for (std::size_t i = 0; i < read->machine.axes.size() && i < 4; ++i) assess(read->machine, i);
    const std::string text = write_project(read->machine);
    const auto again = read_project(text);
    if (!again) std::abort();
    if (!read->read_only && write_project(again->machine) != text) std::abort();
    return 0;
}
