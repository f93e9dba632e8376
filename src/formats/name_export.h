// All rows of a list written, a file each, with all cores; the files are the same on any number of these.
#pragma once

#include "document/name_fill.h"
#include "formats/export.h"
#include "geom/placing.h"

namespace frelm {

struct NameExportChoice {
  std::string folder;         // it must be there
  std::string suffix = "svg"; // of a format of formats/export
  PlanChoice what = {};
  ExportOptions options = {};
  bool as_driven = false;
  std::size_t part = 0, parts = 1; // only rows whose place, less 1, leaves `part` when divided by `parts`
  unsigned threads = 0;            // 0: as many as the machine has cores
};
// All rows on as few sheets as they take, a file a sheet: "sheet-1.svg".
struct NameSheets {
  double width = 610, length = 0; // mm of a sheet; length 0: one roll
  double apart = 5, margin = 10;  // mm
  MayTurn turn = MayTurn::Quarter;
};
struct NameFailure {
  std::size_t row = 0; // from 0
  Error why;
};
struct NameFound { // that was written, and is to be looked at
  std::size_t row = 0;
  NameFinding finding;
};
struct NameExport {
  std::size_t rows = 0, written = 0; // of this part
  std::vector<NameFailure> failed;   // by row
  std::vector<NameFound> found;      // by row
};
// "007-Marigold.svg": the row's number, as wide as the last one's, and what of its first cell can stand in a file's
// name.
std::string name_file(const NameList& list, std::size_t row, const std::string& suffix);
// Errors: those of the choice (no such format, a job without places or with one that no column fills), Cancelled; a row
// that fails is told and the rest goes on. Progress: rows done.
Result<NameExport> export_names(const Document& document, const NameList& list, const DocumentEvaluator& evaluator,
                                const NameExportChoice& choice, Storage& storage, const ExportWatch& watch = {});

// The same, with all rows that can be set placed close together (geom/placing).
struct NestedNames {
  NameExport rows;
  std::size_t sheets = 0; // files
  double used = 0;        // mm of the last one's length
};
Result<NestedNames> export_names_nested(const Document& document, const NameList& list,
                                        const DocumentEvaluator& evaluator, const NameExportChoice& choice,
                                        const NameSheets& sheets, Storage& storage, const ExportWatch& watch = {});

} // namespace frelm
