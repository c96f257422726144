// Any bytes give words on what is wrong or parts; what could be read is written as a table that reads back as many.
#include "core/files/part_table.h"

#include <cstdlib>
#include <sstream>

using namespace fulmox;

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
    const std::string_view text(reinterpret_cast<const char*>(data), size);
    const auto read = read_any_parts(text, "fuzzed", "");
    if (!read) {
        if (read.error().message.empty()) std::abort();
        return 0;
    }
    for (const PartsCount& count : count_parts(read->parts)) {
        const std::string csv = part_table_csv(*count.kind, read->parts);
        std::istringstream in(csv);
        const PartTable table = look_at_part_table(in, count.kind->key);
        in.clear();
        in.seekg(0);
        const PartTableRead again = read_part_table(in, table, "fuzzed", "");
        if (again.parts != read->parts && again.rows != count.parts) std::abort();
    }
    return 0;
}
