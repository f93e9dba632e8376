#include "formats/csv_read.h"

#include "document/name_fill.h"
#include "type/face.h"

#include <algorithm>
#include <csv.h>

namespace frelm {
namespace {

std::string from_latin(std::string_view bytes) {
  std::u32string out;
  for (const char c : bytes)
    out += static_cast<char32_t>(static_cast<unsigned char>(c));
  return to_utf8(out);
}

unsigned char separator_of(std::string_view bytes) {
  constexpr char known[]{',', ';', '\t'};
  std::size_t counts[3]{};
  bool quoted = false;
  for (const char c : bytes) {
    if (c == '"')
      quoted = !quoted;
    if (!quoted && c == '\n')
      break;
    for (int i = 0; i < 3; ++i)
      counts[i] += !quoted && c == known[i] ? 1 : 0;
  }
  return static_cast<unsigned char>(known[std::max_element(counts, counts + 3) - counts]);
}

struct Rows {
  std::vector<std::vector<std::string>> rows;
  std::vector<std::string> row;
  bool too_many = false, too_long = false;
  std::size_t count = 0; // empty ones too

  void cell(const void* data, std::size_t length) {
    too_long = too_long || length > longest_name_cell;
    if (!too_many && !too_long)
      row.emplace_back(data != nullptr ? static_cast<const char*>(data) : "", length);
  }
  void end_row() {
    if (!too_long)
      ++count;
    const bool empty = std::all_of(row.begin(), row.end(), [](const std::string& c) {
      return c.find_first_not_of(" \t\r\n") == std::string::npos;
    });
    if (!empty)
      rows.push_back(std::move(row));
    row.clear();
    too_many = too_many || rows.size() > most_name_rows;
  }
};

Error in_row(Words what, std::size_t row) {
  return {ErrorCode::Unreadable, what, say(FRELM_WORDS("core", "row %1"), std::to_string(row))};
}

} // namespace

Result<ReadList> read_name_list(std::string_view bytes, const std::vector<std::string>& columns) {
  ReadList out;
  constexpr std::string_view mark = "\xef\xbb\xbf";
  if (bytes.starts_with(mark))
    bytes.remove_prefix(mark.size());
  if (bytes.find('\0') != std::string_view::npos)
    return Error{ErrorCode::Unreadable, FRELM_WORDS("core", "this is no list; choose one of text, as CSV"), {}};
  std::string text(bytes);
  if (to_utf8(from_utf8(text)) != text)
    text = from_latin(bytes), out.latin = true;
  Rows rows;
  csv_parser parser;
  if (csv_init(&parser, 0) != 0)
    return Error{ErrorCode::Internal, FRELM_WORDS("core", "the list can't be read"), {}};
  csv_set_delim(&parser, separator_of(text));
  if (separator_of(text) == '\t')
    csv_set_space_func(&parser, [](unsigned char c) { return c == ' ' ? 1 : 0; });
  const auto cell = [](void* data, std::size_t n, void* to) { static_cast<Rows*>(to)->cell(data, n); };
  const auto end = [](int, void* to) { static_cast<Rows*>(to)->end_row(); };
  bool whole = csv_parse(&parser, text.data(), text.size(), cell, end, &rows) == text.size();
  csv_set_opts(&parser, CSV_STRICT | CSV_STRICT_FINI); // marks within a text are let be, one without an end is not
  whole = whole && csv_fini(&parser, cell, end, &rows) == 0;
  csv_free(&parser);
  if (rows.too_long)
    return in_row(FRELM_WORDS("core", "a cell is too long for a name"), rows.count + 1);
  if (!whole)
    return in_row(FRELM_WORDS("core", "a quotation mark has no other end"), rows.count + 1);
  if (rows.too_many)
    return Error{ErrorCode::Unsupported,
                 say(FRELM_WORDS("core", "more than %1 rows; part the list"), std::to_string(most_name_rows)),
                 {}};
  if (rows.rows.empty())
    return Error{ErrorCode::Unreadable, FRELM_WORDS("core", "the list is empty"), {}};
  std::size_t widest = 0;
  for (const auto& row : rows.rows)
    widest = std::max(widest, row.size());
  if (widest > most_name_columns)
    return Error{
        ErrorCode::Unsupported,
        say(FRELM_WORDS("core", "more than %1 columns; leave out what is not set"), std::to_string(most_name_columns)),
        {}};
  const std::vector<std::string>& first = rows.rows.front();
  const bool had_names = std::any_of(first.begin(), first.end(), [&](const std::string& c) {
    return column_key(c) == "number" || std::find(columns.begin(), columns.end(), column_key(c)) != columns.end();
  });
  for (std::size_t i = 0; i < widest; ++i)
    out.list.columns.push_back(had_names && i < first.size() ? first[i]
                               : !had_names && i < columns.size()
                                   ? columns[i]
                                   : std::string("column ").append(std::to_string(i + 1)));
  if (had_names)
    rows.rows.erase(rows.rows.begin());
  for (auto& row : rows.rows)
    row.resize(widest);
  out.list.rows = std::move(rows.rows);
  if (out.list.rows.empty())
    return Error{ErrorCode::Unreadable, FRELM_WORDS("core", "the list has names of columns, and no row"), {}};
  return out;
}

} // namespace frelm
