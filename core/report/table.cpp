#include "core/report/table.h"

#include "core/quantity/visible.h"

#include <algorithm>
#include <charconv>
#include <string_view>

namespace fulmox {

std::string escape_html(std::string_view words) {
    std::string out;
    out.reserve(words.size());
    for (const char c : visible(words)) {
        switch (c) {
        case '&':
            out += "&amp;";
            break;
        case '<':
            out += "&lt;";
            break;
        case '>':
            out += "&gt;";
            break;
        case '"':
            out += "&quot;";
            break;
        default:
            out += c;
        }
    }
    return out;
}

std::string to_tsv(const Table& table) {
    std::string out;
    const auto line = [&](const std::vector<std::string>& cells) {
        for (std::size_t i = 0; i < cells.size(); ++i) {
            if (i > 0) out += '\t';
            std::string cell = cells[i];
            std::replace_if(
                cell.begin(), cell.end(), [](char c) { return c == '\t' || c == '\n' || c == '\r'; }, ' ');
            out += cell;
        }
        out += '\n';
    };
    if (!table.head.empty()) line(table.head);
    for (const auto& row : table.rows) line(row);
    return out;
}

std::string to_html(const Table& table) {
    std::string out = "<table cellspacing=\"0\" cellpadding=\"3\">";
    const auto line = [&](const std::vector<std::string>& cells, const char* tag) {
        out += "<tr>";
        for (std::size_t i = 0; i < cells.size(); ++i) {
            const bool right = i < table.right.size() && table.right[i];
            out += std::string("<") + tag;
            out += (right ? " align=\"right\">" : " align=\"left\">") + escape_html(cells[i]) + "</" + tag + ">";
        }
        out += "</tr>\n";
    };
    if (!table.head.empty()) line(table.head, "th");
    for (const auto& row : table.rows) line(row, "td");
    return out + "</table>\n";
}

std::string csv_cell(const std::string& written) {
    // a spreadsheet takes text that begins so for a formula; one more apostrophe where it has some (`TextRows`)
    double number = 0;
    const char* end = written.data() + written.size();
    const std::size_t head = written.find_first_not_of('\'');
    const bool formula = head != std::string::npos &&
                         std::string_view("=+-@\t").find(written[head]) != std::string_view::npos &&
                         std::from_chars(written.data(), end, number).ptr != end;
    std::string text = (formula ? "'" : "") + written;
    if (text.find_first_of(",\"\r\n") == std::string::npos) return text;
    std::string out = "\"";
    for (const char c : text) out += c == '"' ? std::string("\"\"") : std::string(1, c);
    return out + "\"";
}

} // namespace fulmox
