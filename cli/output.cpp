#include "output.h"

#include <algorithm>
#include <charconv>
#include <filesystem>
#include <fstream>
#include <iostream>

namespace fulmox {

std::string harmless(std::string_view text) {
    std::string out;
    out.reserve(text.size());
    for (std::size_t i = 0; i < text.size(); ++i) {
        const auto byte = [&](std::size_t k) {
            return static_cast<unsigned char>(i + k < text.size() ? text[i + k] : 0);
        };
        const unsigned c = byte(0);
        unsigned code = 0, length = 1;
        if ((c < 0x20 && c != '\n' && c != '\t') || c == 0x7f) code = c;
        if (c == 0xc2 && byte(1) < 0xa0) code = byte(1), length = 2; // the second set of control characters
        if (c == 0xe2 && byte(1) == 0x80 && byte(2) >= 0xaa && byte(2) <= 0xae)
            code = 0x2000 + byte(2) - 0x80, length = 3;
        if (c == 0xe2 && byte(1) == 0x81 && byte(2) >= 0xa6 && byte(2) <= 0xa9)
            code = 0x2040 + byte(2) - 0x80, length = 3;
        if (code > 0) {
            char digits[8];
            out += "\\u{" + std::string(digits, std::to_chars(digits, digits + sizeof digits, code, 16).ptr) + "}";
            i += length - 1;
        } else {
            out += text[i];
        }
    }
    return out;
}

void say(const std::string& file, const Problem& p) {
    std::cerr << file << ": "
              << (p.severity == Severity::error           ? "error: "
                     : p.severity == Severity::suspicious ? "check: "
                                                          : "caution: ")
              << harmless(to_text(p)) << "\n";
}

std::optional<std::string> read_file(const std::string& path) {
    std::ifstream file;
    if (path != "-") {
        file.open(path, std::ios::binary);
        if (!file || std::filesystem::is_directory(path)) {
            std::cerr << path << ": error: it cannot be opened for reading\n";
            return std::nullopt;
        }
    }
    std::istream& in = path == "-" ? std::cin : file;
    std::string text, part(1 << 16, '\0');
    while (text.size() <= largest_file && in.read(part.data(), static_cast<std::streamsize>(part.size())).gcount() > 0)
        text.append(part, 0, static_cast<std::size_t>(in.gcount()));
    if (in.bad()) {
        std::cerr << path << ": error: it cannot be read to the end\n";
        return std::nullopt;
    }
    return text;
}

std::optional<ProjectRead> open_project(const std::string& path) {
    const auto text = read_file(path);
    if (!text) return std::nullopt;
    auto project = read_project(*text);
    if (!project) {
        say(path, project.error());
        return std::nullopt;
    }
    if (!project->warning.empty()) std::cerr << path << ": " << harmless(project->warning) << "\n";
    return std::move(*project);
}

int refuse(const std::string& what, const std::string& found, const char* allowed) {
    std::cerr << "error: " << what << ": found \"" << harmless(found) << "\"; allowed is " << allowed << "\n";
    return bad_input;
}

std::optional<std::size_t> axis_of(const Machine& machine, const std::string& named) {
    const auto& axes = machine.axes;
    for (std::size_t i = 0; i < axes.size(); ++i)
        if (axes[i].name == named || std::to_string(i + 1) == named) return i;
    refuse("--axis", named, ("the name of an axis, or its number from 1 to " + std::to_string(axes.size())).c_str());
    return std::nullopt;
}

} // namespace fulmox
