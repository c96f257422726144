// Columns of text that other people's tools wrote.
#pragma once

#include "core/quantity/unit.h"

#include <algorithm>
#include <cctype>
#include <string>
#include <string_view>
#include <vector>

namespace fulmox {

/// Without blanks and quotes around it.
inline std::string_view trim(std::string_view s) {
    const auto white = [](char c) { return c == ' ' || c == '\t' || c == '\r' || c == '"'; };
    while (!s.empty() && white(s.front())) s.remove_prefix(1);
    while (!s.empty() && white(s.back())) s.remove_suffix(1);
    return s;
}

/// The cells of a line, each trimmed.
inline std::vector<std::string_view> split(std::string_view line, char separator) {
    std::vector<std::string_view> out;
    std::size_t at = 0;
    for (;;) {
        const std::size_t end = line.find(separator, at);
        out.push_back(trim(line.substr(at, end == std::string_view::npos ? end : end - at)));
        if (end == std::string_view::npos) return out;
        at = end + 1;
    }
}

/// In small letters; those of ASCII, which column headings are known by.
inline std::string lower(std::string_view s) {
    std::string out(s);
    std::transform(
        out.begin(), out.end(), out.begin(), [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
    return out;
}

/// Lines that hold something: blank ones and those that begin with # are ignored, and a byte order mark.
class Lines {
  public:
    explicit Lines(std::string_view text) : rest_(text) {
        if (rest_.starts_with("\xEF\xBB\xBF")) rest_.remove_prefix(3);
    }
    bool next(std::string_view& line) {
        while (!rest_.empty()) {
            const std::size_t end = rest_.find('\n');
            line = rest_.substr(0, end);
            rest_ = end == std::string_view::npos ? std::string_view() : rest_.substr(end + 1);
            ++number_;
            if (const std::string_view bare = trim(line); !bare.empty() && bare.front() != '#') return true;
        }
        return false;
    }
    int number() const { return number_; } ///< of the line, from 1
    std::string place() const { return "line " + std::to_string(number_); }

  private:
    std::string_view rest_;
    int number_ = 0;
};

/// What parts the columns of a line: a tab, else a semicolon, else a comma.
inline char separator_of(std::string_view line) {
    return line.find('\t') != std::string_view::npos ? '\t' : line.find(';') != std::string_view::npos ? ';' : ',';
}

/// "1,5" and "1,5 N·m" with a point.
inline void mend_decimal_comma(std::string& s) {
    std::size_t i = !s.empty() && (s[0] == '+' || s[0] == '-') ? 1 : 0;
    const std::size_t digits = i;
    while (i < s.size() && std::isdigit(static_cast<unsigned char>(s[i]))) ++i;
    if (i > digits && i + 1 < s.size() && s[i] == ',' && std::isdigit(static_cast<unsigned char>(s[i + 1]))) s[i] = '.';
}

struct ColumnName {
    std::string name, unit;
};

/// Of a heading: "peak torque [N·m]", "n (rpm)", "torque/N·m", "speed rpm".
inline ColumnName column_name(std::string_view cell) {
    ColumnName out{std::string(cell), {}};
    if (const std::size_t open = cell.find_first_of("[(/"); open != std::string_view::npos) {
        std::string_view unit = cell.substr(open + 1);
        while (!unit.empty() && (unit.back() == ']' || unit.back() == ')')) unit.remove_suffix(1);
        out.unit = std::string(trim(unit));
        out.name = std::string(trim(cell.substr(0, open)));
    } else if (const std::size_t space = cell.rfind(' ');
               space != std::string_view::npos && find_unit(cell.substr(space + 1))) {
        out.unit = std::string(cell.substr(space + 1));
        out.name = std::string(trim(cell.substr(0, space)));
    }
    return out;
}

} // namespace fulmox
