#include "formats/name_export.h"

#include "cutting/driven.h"
#include "type/face.h"

#include <algorithm>
#include <atomic>
#include <fmt/format.h>
#include <mutex>
#include <thread>

namespace frelm {

std::string name_file(const NameList& list, std::size_t row, const std::string& suffix) {
  constexpr std::size_t longest = 40; // code points
  std::u32string name = list.rows[row].empty() ? std::u32string() : from_utf8(list.rows[row].front());
  name.resize(std::min(name.size(), longest));
  for (char32_t& c : name)
    if (c < 0x20 || c == U'/' || c == U'\\' || c == U':' || c == U' ' || c == U'"' || c == U'*' || c == U'?' ||
        c == U'<' || c == U'>' || c == U'|')
      c = U'_';
  const std::size_t width = std::to_string(list.rows.size()).size();
  const std::string number = fmt::format("{:0{}}", row + 1, width);
  return number + (name.empty() ? "" : "-") + to_utf8(name) + "." + suffix;
}

namespace {

Result<Done> can_be_named(const Document& document, const NameExportChoice& choice) {
  if (const Result<const ExportFormat*> format = export_format("a." + choice.suffix); !format)
    return format.error();
  const auto asks = [](const std::shared_ptr<const Piece>& p) {
    return p->lettering() != nullptr && has_places(*p->lettering());
  };
  if (std::none_of(document.pieces.begin(), document.pieces.end(), asks))
    return bad_input(FRELM_WORDS("core", "no lettering of the job has a place for a name; write {name} where it goes"),
                     {});
  return Done{};
}
bool is_empty(const FilledRow& row) {
  return std::any_of(row.findings.begin(), row.findings.end(),
                     [](const NameFinding& f) { return f.trouble == NameTrouble::Empty; });
}

// make(row, filled) of each row of the choice's part, on all cores.
Result<NameExport> each_row(const Document& document, const NameList& list, const DocumentEvaluator& evaluator,
                            const NameExportChoice& choice, const ExportWatch& watch,
                            const std::function<Result<Done>(std::size_t, const FilledRow&)>& make) {
  if (const Result<Done> can = can_be_named(document, choice); !can)
    return can.error();
  std::vector<std::size_t> rows;
  for (std::size_t i = 0; i < list.rows.size(); ++i)
    if (i % std::max<std::size_t>(choice.parts, 1) == choice.part)
      rows.push_back(i);
  NameExport out;
  out.rows = rows.size();
  std::mutex guard; // of out
  std::atomic<std::size_t> next = 0, done = 0;
  const auto one = [&](std::size_t row) -> Result<std::vector<NameFinding>> {
    const Result<FilledRow> filled = with_row(document, list, row, evaluator, watch.stop);
    if (!filled)
      return filled.error();
    if (is_empty(*filled))
      return bad_input(words_of({NameTrouble::Empty, 0, 0}),
                       say(FRELM_WORDS("core", "row %1"), std::to_string(row + 1)));
    const Result<Done> made = make(row, *filled);
    if (!made)
      return made.error();
    return filled->findings;
  };
  const auto work = [&] {
    for (std::size_t k = next++; k < rows.size() && !watch.stop.stop_requested(); k = next++) {
      const Result<std::vector<NameFinding>> made = one(rows[k]);
      ++done;
      const std::lock_guard lock(guard);
      if (made) {
        ++out.written;
        for (const NameFinding& f : *made)
          out.found.push_back({rows[k], f});
      } else
        out.failed.push_back({rows[k], made.error()});
      if (watch.progress)
        watch.progress(double(done) / double(rows.size()));
    }
  };
  const std::size_t wanted = choice.threads > 0 ? choice.threads : std::max(1U, std::thread::hardware_concurrency());
  {
    std::vector<std::jthread> threads;
    for (std::size_t i = 1; i < std::min(wanted, std::max<std::size_t>(rows.size(), 1)); ++i)
      threads.emplace_back(work);
    work();
  }
  if (watch.stop.stop_requested())
    return Error{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), {}};
  const auto by_row = [](const auto& a, const auto& b) { return a.row < b.row; };
  std::stable_sort(out.failed.begin(), out.failed.end(), by_row);
  std::stable_sort(out.found.begin(), out.found.end(), by_row);
  return out;
}

} // namespace

Result<NameExport> export_names(const Document& document, const NameList& list, const DocumentEvaluator& evaluator,
                                const NameExportChoice& choice, Storage& storage, const ExportWatch& watch) {
  const auto write = [&](std::size_t row, const FilledRow& filled) -> Result<Done> {
    ExportChoice one{{choice.folder + "/" + name_file(list, row, choice.suffix)}, choice.what, false, choice.options};
    one.as_driven = choice.as_driven;
    const Result<Exported> written = export_job(filled.document, evaluator, one, storage, {watch.stop, {}});
    return written ? Result<Done>(Done{}) : Result<Done>(written.error());
  };
  return each_row(document, list, evaluator, choice, watch, write);
}

Result<NestedNames> export_names_nested(const Document& document, const NameList& list,
                                        const DocumentEvaluator& evaluator, const NameExportChoice& choice,
                                        const NameSheets& sheets, Storage& storage, const ExportWatch& watch) {
  std::vector<CutSheet> rows(list.rows.size());
  constexpr double of_rows = 0.6, of_placing = 0.3; // of the progress
  ExportWatch inner{watch.stop, {}};
  if (watch.progress)
    inner.progress = [&](double share) { watch.progress(of_rows * share); };
  const auto keep = [&](std::size_t row, const FilledRow& filled) -> Result<Done> {
    Result<CutSheet> sheet = cut_sheet(filled.document, evaluator, watch.stop);
    if (!sheet)
      return sheet.error();
    rows[row] = std::move(*sheet);
    return Done{};
  };
  const Result<NameExport> set = each_row(document, list, evaluator, choice, inner, keep);
  if (!set)
    return set.error();
  std::vector<Outline> shapes;
  for (const CutSheet& row : rows) {
    Outline& shape = shapes.emplace_back();
    for (const CutPiece& p : row.pieces)
      shape.append(p.outline);
  }
  PlacingWish wish{sheets.width, sheets.length, sheets.apart, sheets.margin, sheets.turn, watch.stop, {}};
  if (watch.progress)
    wish.progress = [&](double share) { watch.progress(of_rows + of_placing * share); };
  const Result<PlacedShapes> placed = place_shapes(shapes, std::vector<std::size_t>(shapes.size(), 1), wish);
  if (!placed)
    return placed.error();
  NestedNames out{*set, placed->sheets, placed->used};
  const Result<const ExportFormat*> format = export_format("a." + choice.suffix);
  if (!format)
    return format.error();
  for (std::size_t s = 0; s < placed->sheets; ++s) {
    CutSheet sheet;
    sheet.frame = {0, 0, sheets.width, sheets.length > 0 ? sheets.length : placed->used};
    for (const PlacedCopy& c : placed->copies)
      if (c.sheet == s)
        for (const CutPiece& p : rows[c.shape].pieces) {
          sheet.pieces.push_back(p);
          sheet.pieces.back().outline = p.outline.transformed(c.place);
        }
    CutPlan plan = cut_plan(std::move(sheet), document.materials, choice.what, watch.stop);
    if (choice.as_driven) {
      Result<DrivenPlan> drive = driven(plan, document.materials, watch.stop);
      if (!drive)
        return drive.error();
      plan = std::move(drive->plan);
    }
    const std::string path = choice.folder + "/sheet-" + std::to_string(s + 1) + "." + choice.suffix;
    const Result<std::string> bytes = (*format)->write(plan, choice.options);
    if (!bytes)
      return bytes.error();
    if (const Result<Done> same = (*format)->read_back(plan, *bytes, choice.options);
        !same && same.error().code != ErrorCode::Unsupported)
      return same.error();
    if (const Result<Done> done = storage.write(path, *bytes); !done)
      return done.error();
    if (watch.progress)
      watch.progress(of_rows + of_placing + (1 - of_rows - of_placing) * double(s + 1) / double(placed->sheets));
  }
  return out;
}

} // namespace frelm
