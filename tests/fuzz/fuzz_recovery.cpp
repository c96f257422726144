// Any bytes give an error in words or kept work, which writes to a text that reads back as itself.
#include "core/files/project.h"
#include "core/files/recovery.h"

#include <cstdlib>

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
    using namespace fulmox;
    const auto read = read_recovery(std::string_view(reinterpret_cast<const char*>(data), size));
    if (!read) {
        if (read.error().message.empty()) std::abort();
        return 0;
    }
    const auto again = read_recovery(write_recovery(*read));
    if (!again || !(*again == *read)) std::abort();
    const auto project = read_project(read->project);
    if (!project && project.error().message.empty()) std::abort();
    return 0;
}
