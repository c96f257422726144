// A parts list as a table: CSV or text that other people's programs wrote, made into parts of one kind.
#pragma once

#include "core/files/bounds.h"
#include "core/files/project.h"
#include "core/model/part.h"
#include "core/model/problem.h"
#include "core/quantity/result.h"

#include <functional>
#include <istream>
#include <string>
#include <string_view>
#include <vector>

namespace fulmox {

/// What a column is taken for. All but the heading may be corrected.
struct PartColumn {
    std::string heading;
    std::string field; ///< path below the part, "/rated_torque"; empty: ignored
    std::string label; ///< of the field
    std::string unit;  ///< of its numbers; empty: each cell has its own, or the field has none
    bool sure = true;  ///< the heading says the field; else it was guessed by likeness or by dimension alone
    std::string wrong; ///< why it is ignored, or what is to be given yet
};

/// How a table is read.
struct PartTable {
    std::string kind; ///< key of the kind of part; empty: no heading told
    std::string encoding;
    char separator = ',';
    bool decimal_comma = false;
    int heading_line = 0; ///< 0: none was found
    int first_line = 0;   ///< of the rows of parts
    std::vector<PartColumn> columns;
    std::vector<std::vector<std::string>> sample; ///< first rows, as they stand
};

/// Something a column of this kind of part may be taken for.
struct PartField {
    std::string path, label;
    Kind kind = Kind::illegal; ///< of a quantity; illegal: a text, a choice or yes and no
    std::string unit;          ///< its usual one
    std::string symbol;
};
/// All but lists; of a motor those of all its kinds.
std::vector<PartField> part_fields(const PartKind& kind);

/// Looks at the beginning of a table: encoding (UTF-8, UTF-16, else Windows-1252), what parts the columns (tab,
/// semicolon, comma or bar), the heading among the first lines, a line of units under it, decimal comma or point, and
/// what each column is, by heading and dimension. `kind`: key; empty: guessed. Never throws.
PartTable look_at_part_table(std::istream& in, const std::string& kind = {});

/// Columns matched again, after the kind was chosen by hand.
void match_columns(PartTable& table);

struct PartTableRead {
    PartLists parts;
    Problems problems;             ///< with line and heading
    std::size_t more_problems = 0; ///< beyond those that are listed
    std::size_t rows = 0;          ///< that held something
    std::size_t left_out = 0;      ///< of them, for what `problems` say
    bool cancelled = false;
};

/// Reads the rows below the heading, by what `table` says, without taking the file in as a whole. A row with an error
/// is left out and named by line and column, the others are kept, at most `most_parts`. Each part gets `file`, its line
/// and `date` as provenance. `progress` is told the bytes read, now and then; where it says no the rest is left.
PartTableRead read_part_table(std::istream& in, const PartTable& table, const std::string& file,
    const std::string& date, const std::function<bool(std::size_t)>& progress = {});

/// A catalogue of either form, by its first sign: JSON (`read_parts`), else a table (`read_part_table`).
Result<PartsRead, Problem> read_any_parts(std::string_view bytes, const std::string& file, const std::string& date);

/// How many parts of one kind there are, and how many without a price or mass.
struct PartsCount {
    const PartKind* kind = nullptr;
    std::size_t parts = 0, without_price = 0, without_mass = 0;
};
/// Of every kind of which there are some.
std::vector<PartsCount> count_parts(const PartLists& parts);

/// Parts of one kind as CSV (RFC 4180) that `read_part_table` reads: a column for every field that one of them has.
/// Lists (curves) and pictures are left out.
std::string part_table_csv(const PartKind& kind, const PartLists& parts);

} // namespace fulmox
