// What is missing or wrong about an axis, by what it serves: who needs it waits for it by name.
#pragma once

#include "core/model/machine.h"
#include "core/model/problem.h"

#include <string>
#include <vector>

namespace fulmox {

/// What a row that needs this needs on this axis: without points of the sheet a curve is made of the motor's constants.
need::Bits needs_on(need::Bits needs, const Axis& axis);

class Waiting {
  public:
    /// The errors among the problems of an axis and of the site; `path` is the axis' JSON pointer.
    Waiting(const Machine& machine, const Axis& axis, const std::string& path, const Problems& problems);

    /// One that is found later, on the way.
    void add(const Problem& problem, need::Bits serves);
    /// A value that may be missing, but without which what it serves cannot be said.
    void unknown(const Missing& missing, const std::string& label, need::Bits serves);
    /// Whatever serves one of these serves `more` as well.
    void also(need::Bits serves, need::Bits more);
    bool blocks(need::Bits needs) const { return (mask_ & needs) != 0; }
    /// What is unknown of these where nothing else keeps them waiting; empty: something has to be given or mended.
    std::vector<Missing> unknowns(need::Bits needs) const;
    /// What these wait for: JSON pointers into the project and names, each once.
    std::vector<Missing> fields(need::Bits needs) const;
    /// The axis' JSON pointer.
    const std::string& path() const { return path_; }
    /// "waits for: Distance, segment 3; Lead"; empty where nothing is missing.
    std::string words(need::Bits needs) const;
    /// The axis with a harmless number in every place that waits, so that what does not need it can be calculated by
    /// the same way as ever. Nothing that needs such a place may be shown.
    Axis with_stand_ins() const;
    static Site with_stand_ins(Site site);
    /// Segments before the first that cannot be planned.
    std::size_t known_segments() const;

  private:
    struct Entry {
        need::Bits serves;
        std::string path, name;
        Missing unknown{}; ///< without a path: it is an error
    };
    const Axis& axis_;
    std::string path_;
    need::Bits mask_ = 0;
    std::vector<Entry> entries_;
};

} // namespace fulmox
