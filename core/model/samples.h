// Numbers that came from outside in bulk: shared between copies of the project, never changed in place.
#pragma once

#include <memory>
#include <vector>

namespace fulmox {

/// Rows of equal length. `columns` says how many numbers make one row; SI throughout.
struct Samples {
    std::shared_ptr<const std::vector<double>> numbers;
    std::size_t columns = 2;

    std::size_t rows() const { return numbers ? numbers->size() / columns : 0; }
    double at(std::size_t row, std::size_t column) const { return (*numbers)[row * columns + column]; }
    bool operator==(const Samples& o) const {
        if (columns != o.columns || rows() != o.rows()) return false;
        return numbers == o.numbers || rows() == 0 || *numbers == *o.numbers;
    }
};

struct SamplesSpec {
    const char* key;
    const char* label;
    const char* help;
    std::size_t columns;
    std::size_t most = 2'000'000; ///< rows beyond this are refused
};

} // namespace fulmox
