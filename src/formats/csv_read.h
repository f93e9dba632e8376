// Lists of names from files and from the clipboard: rows of cells.
//
// Cells are parted by commas, semicolons or tabs, whichever the first line has most of; quoted ones may hold these,
// line breaks and doubled quotes. UTF-8 with or without a mark; other bytes are taken as ISO 8859-1, and told. Empty
// rows are left out. Source: RFC 4180 (Shafranovich, Common Format and MIME Type for Comma-Separated Values Files,
// 2005); read by libcsv.
#pragma once

#include "document/name_list.h"
#include "geom/result.h"

#include <string_view>

namespace frelm {

struct ReadList {
  NameList list;
  bool latin = false; // it was no UTF-8
};
// `columns`: what the places of the job ask for. Where one of the first row's cells is among these, that row names the
// columns; else they are these, in order, and further ones "column 3", … . Errors: not a list (a quote that doesn't
// end, zero bytes), too many rows or columns, a cell that is too long, nothing in it; with the row.
Result<ReadList> read_name_list(std::string_view bytes, const std::vector<std::string>& columns);

} // namespace frelm
