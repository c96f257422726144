// Lines and rows of a text that somebody else's program wrote, read as a stream.
#pragma once

#include <csv.h>
#include <iconv.h>
#include <istream>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace fulmox {

/// Text of any encoding that iconv knows, made UTF-8; what is no letter of it becomes U+FFFD.
class Decoder {
  public:
    explicit Decoder(const char* from);
    ~Decoder();
    Decoder(const Decoder&) = delete;
    Decoder& operator=(const Decoder&) = delete;

    /// Appends to `out`; the bytes at the end that are no whole letter yet stay for the next call.
    void decode(std::string_view bytes, std::string& out);

  private:
    iconv_t handle_;
    std::string rest_;
};

/// Lines of a stream as UTF-8, of which a chunk is held at a time. UTF-16 is known by its mark or its zeros; a line
/// that is no UTF-8 is read as Windows-1252. They end with \n, \r\n or \r.
class TextLines {
  public:
    static constexpr std::size_t longest = 1 << 20; ///< bytes of a line

    explicit TextLines(std::istream& in);
    /// False at the end. A line over `longest` is empty, and `too_long` says so.
    bool next(std::string& line);
    int number() const { return number_; } ///< of the line, from 1
    bool too_long() const { return too_long_; }
    std::size_t bytes() const { return bytes_; } ///< read so far
    std::string encoding() const { return !wide_.empty() ? wide_ : single_ ? "Windows-1252" : "UTF-8"; }

  private:
    std::istream& in_;
    std::string text_, wide_;
    std::optional<Decoder> decoder_;
    std::size_t at_ = 0, looked_ = 0, bytes_ = 0;
    int number_ = 0;
    bool ended_ = false, single_ = false, over_ = false, too_long_ = false;

    std::string more();
    void wide(const char* encoding, const std::string& head, std::size_t mark);
    void take(std::string& line, std::size_t end);
};

/// Rows of cells from lines (RFC 4180). A cell in quotes may go over several lines.
class TextRows {
  public:
    explicit TextRows(char separator);
    ~TextRows();
    TextRows(const TextRows&) = delete;
    TextRows& operator=(const TextRows&) = delete;

    bool add(const std::string& line); ///< true where it ends a row
    bool within_quotes() const { return lines_ > 0; }
    int lines() const { return lines_; } ///< that an unfinished row has
    std::vector<std::string>& cells() { return cells_; }
    void give_up(); ///< what has begun is dropped

  private:
    csv_parser parser_{};
    char separator_;
    std::vector<std::string> cells_;
    int lines_ = 0;
    bool done_ = false;

    void restart();
    static void cell(void* text, std::size_t size, void* self);
    static void row(int, void* self);
};

} // namespace fulmox
