#include "output.h"

#include <algorithm>
#include <cerrno>
#include <cstring>
#include <fcntl.h>
#include <iostream>
#include <sys/stat.h>
#include <unistd.h>

namespace fulmox {

void say(const std::string& file, const Problem& p) {
    std::cerr << visible(file) << ": "
              << (p.severity == Severity::error           ? "error: "
                     : p.severity == Severity::suspicious ? "check: "
                                                          : "caution: ")
              << visible(to_text(p)) << "\n";
}

std::optional<std::string> read_file(const std::string& path, std::size_t most) {
    const auto wrong = [&](const std::string& why) {
        std::cerr << visible(path) << ": error: " << why << "\n";
        return std::nullopt;
    };
    // what cannot seek is read once; a stream takes an error of reading for the end of the file
    const int handle = path == "-" ? 0 : ::open(path.c_str(), O_RDONLY | O_CLOEXEC | O_NOCTTY);
    struct stat about {};
    if (handle < 0 || ::fstat(handle, &about) != 0)
        return wrong(std::string("it cannot be opened for reading: ") + std::strerror(errno));
    const auto too_large = [&] {
        return wrong("it has more than " + std::to_string(most >> 20) + " MB; allowed are at most so many");
    };
    std::string text, part(1 << 16, '\0');
    ssize_t got = 0;
    const bool known_too_large = S_ISREG(about.st_mode) && static_cast<std::size_t>(about.st_size) > most;
    while (!known_too_large && text.size() <= most && (got = ::read(handle, part.data(), part.size())) > 0)
        text.append(part, 0, static_cast<std::size_t>(got));
    const int error = errno;
    if (handle > 0) ::close(handle);
    if (known_too_large || text.size() > most) return too_large();
    if (got < 0) return wrong(std::string("it cannot be read to the end: ") + std::strerror(error));
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
    if (!project->warning.empty()) std::cerr << visible(path) << ": " << visible(project->warning) << "\n";
    return std::move(*project);
}

int refuse(const std::string& what, const std::string& found, const char* allowed) {
    std::cerr << "error: " << what << ": found \"" << visible(found) << "\"; allowed is " << allowed << "\n";
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
