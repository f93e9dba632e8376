// A row of a list filled into the places of a job's letterings, and made to fit where they stand.
//
// A place is {name}: the row's text in the column of that name, whatever its case. {NAME}, all in capitals, sets it in
// capitals; {name or Guest} stands for Guest where the row has nothing there; {number}, where no column is called so,
// is the row's number from 1 on. {{ is a brace. Blanks at both ends of a text don't count. Gaps, places and shapes of
// letters changed by hand belong to the text they were made on: what was done to the text with the places is for none
// of the rows; a row that was put beside the sheet gives what hands do to it there to all rows of that very text.
#pragma once

#include "document/evaluate.h"
#include "document/name_list.h"

namespace frelm {

struct NamePlace {
  std::size_t first = 0, count = 0; // code points of the text, braces included
  std::string column;               // in small letters
  std::u32string otherwise;
  bool capitals = false;
};
// What a column or a place is found by: small letters, no blanks at the ends.
std::string column_key(const std::string& name);
std::vector<NamePlace> name_places(const std::u32string& text);
// What columns the letterings of a job ask for, in the order in which they come, each once; without "number".
std::vector<std::string> wanted_columns(const Document& document);
bool has_places(const Lettering& lettering);
// The list's rule for a piece, or the usual one.
NameRule rule_for(const NameList& list, PieceId piece);

// What is to be looked at in a row.
enum class NameTrouble { Empty, TooLong, LettersLow, LettersMissing };
struct NameFinding {
  NameTrouble trouble = NameTrouble::Empty;
  PieceId piece = 0;
  double by = 0; // TooLong: mm; LettersLow: the caps' height, mm
};
Said words_of(const NameFinding& finding);

struct FilledRow {
  Document document;
  std::vector<NameFinding> findings;
  bool by_hand = false; // one of its texts has what hands did to it
};
// Errors: no such row, a place that no column fills, what can't be set (its guide is gone, no face); Cancelled.
Result<FilledRow> with_row(const Document& document, const NameList& list, std::size_t row,
                           const DocumentEvaluator& evaluator, const std::stop_token& stop = {});

// A row's letterings beside the sheet, off the knife, as they come out, for the hand to work on.
struct RowAside {
  Document document;
  std::vector<PieceId> ids; // those letterings; of a text that stands there already, that one
};
// Errors: those of with_row, nothing with a place, too many stand there.
Result<RowAside> row_aside(const Document& document, std::size_t row, const DocumentEvaluator& evaluator,
                           const std::stop_token& stop = {});

} // namespace frelm
