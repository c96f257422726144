// Any bytes give an error in words or motors.
#include "core/files/project.h"

#include <cstdlib>

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
    const auto read = fulmox::read_motors(std::string_view(reinterpret_cast<const char*>(data), size));
    if (!read && read.error().message.empty()) std::abort();
    return 0;
}
