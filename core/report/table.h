// A table of words, to be carried elsewhere: as tab-separated text, or as HTML.
#pragma once

#include <string>
#include <string_view>
#include <vector>

namespace fulmox {

struct Table {
    std::string title;
    std::vector<std::string> head; ///< may be empty
    std::vector<std::vector<std::string>> rows;
    std::vector<bool> right; ///< by column: figures stand at the right; columns beyond stand at the left

    bool empty() const { return rows.empty(); }
};

/// Header and rows, a line each; tabs and ends of line inside a cell become blanks.
std::string to_tsv(const Table& table);

/// A <table> without styles of its own; what a cell holds stays words.
std::string to_html(const Table& table);

/// A cell of a CSV line, in quotes where it must be (RFC 4180).
std::string csv_cell(const std::string& text);

/// "&", "<", ">" and quotes as HTML writes them.
std::string escape_html(std::string_view words);

} // namespace fulmox
