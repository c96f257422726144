#include "core/files/recovery.h"

#include "core/files/document.h"

namespace fulmox {

Result<RecoveryFile, Problem> read_recovery(std::string_view text) {
    using Out = Result<RecoveryFile, Problem>;
    // written as a text within a text, quotation marks and line ends take two bytes each
    const auto parsed = parse_document(text, 2 * largest_file);
    if (!parsed) return Out::failure(parsed.error());
    const Json& root = parsed->root;
    if (!root.is_object())
        return Out::failure({Severity::error, "", "", "this holds no unsaved work: it is not an object", 1});
    RecoveryFile out;
    const std::pair<const char*, std::string*> members[] = {
        {"file", &out.file}, {"mark", &out.mark}, {"project", &out.project}};
    for (const auto& [name, to] : members) {
        const std::string pointer = child_pointer("", name);
        const auto at = root.find(name);
        const bool needed = to == &out.project;
        if (at == root.end() && !needed) continue;
        if (at == root.end() || !at->is_string())
            return Out::failure({Severity::error, pointer, "",
                "this holds no unsaved work: \"" + std::string(name) + "\" is " +
                    (at == root.end() ? "missing" : "not a text"),
                parsed->line(pointer)});
        *to = at->get<std::string>();
    }
    if (out.mark.size() % 2 != 0 || out.mark.find_first_not_of("0123456789abcdef") != std::string::npos)
        out.mark.clear(); // whoever brings the work back is then asked before anything is saved over
    return out;
}

std::string write_recovery(const RecoveryFile& kept) {
    return dump_with_long_texts([&](LongTexts& texts) {
        return Json{{"file", kept.file}, {"mark", kept.mark}, {"project", texts.hold(kept.project)}};
    });
}

} // namespace fulmox
