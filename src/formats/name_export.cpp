#include "formats/name_export.h"

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

Result<NameExport> export_names(const Document& document, const NameList& list, const DocumentEvaluator& evaluator,
                                const NameExportChoice& choice, Storage& storage, const ExportWatch& watch) {
  if (const Result<const ExportFormat*> format = export_format("a." + choice.suffix); !format)
    return format.error();
  const auto asks = [](const std::shared_ptr<const Piece>& p) {
    return p->lettering() != nullptr && has_places(*p->lettering());
  };
  if (std::none_of(document.pieces.begin(), document.pieces.end(), asks))
    return bad_input(FRELM_WORDS("core", "no lettering of the job has a place for a name; write {name} where it goes"),
                     {});
  std::vector<std::size_t> rows;
  for (std::size_t i = 0; i < list.rows.size(); ++i)
    if (i % std::max<std::size_t>(choice.parts, 1) == choice.part)
      rows.push_back(i);
  NameExport out;
  out.rows = rows.size();
  std::mutex guard; // of out
  std::atomic<std::size_t> next = 0, done = 0;
  const auto work = [&] {
    for (std::size_t k = next++; k < rows.size() && !watch.stop.stop_requested(); k = next++) {
      const std::size_t row = rows[k];
      const auto failed = [&](const Error& why) {
        const std::lock_guard lock(guard);
        out.failed.push_back({row, why});
      };
      const Result<FilledRow> filled = with_row(document, list, row, evaluator, watch.stop);
      const auto is_empty = [](const NameFinding& f) { return f.trouble == NameTrouble::Empty; };
      if (!filled)
        failed(filled.error());
      else if (std::any_of(filled->findings.begin(), filled->findings.end(), is_empty))
        failed(bad_input(words_of({NameTrouble::Empty, 0, 0}),
                         say(FRELM_WORDS("core", "row %1"), std::to_string(row + 1))));
      else {
        ExportChoice one{
            {choice.folder + "/" + name_file(list, row, choice.suffix)}, choice.what, false, choice.options};
        one.as_driven = choice.as_driven;
        const Result<Exported> written = export_job(filled->document, evaluator, one, storage, {watch.stop, {}});
        if (!written)
          failed(written.error());
        else {
          const std::lock_guard lock(guard);
          ++out.written;
          for (const NameFinding& f : filled->findings)
            out.found.push_back({row, f});
        }
      }
      ++done;
      if (watch.progress) {
        const std::lock_guard lock(guard);
        watch.progress(double(done) / double(rows.size()));
      }
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

} // namespace frelm
