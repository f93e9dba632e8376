// frelm-cli names JOB LIST.csv -o FOLDER [--format SUFFIX] [--part K/N] [--fit HOW] [--room MM] [--least-caps MM]
//                 [--threads N] [--as-driven] [--nest [--width MM] [--length MM] [--between MM] [--margin MM]]
#include "cli/open_job.h"
#include "formats/csv_read.h"
#include "formats/name_export.h"

#include <CLI/CLI.hpp>
#include <charconv>
#include <filesystem>
#include <nlohmann/json.hpp>
#include <ostream>

namespace frelm {
namespace {

using Json = nlohmann::ordered_json;

constexpr std::size_t kept_bytes = std::size_t{48} << 20; // rows have little in common but the rest of the job

struct NamesOptions {
  std::string job, list, folder, format = "svg", part;
  std::optional<NameFit> fit;
  std::optional<double> room, least_caps;
  unsigned threads = 0;
  bool as_driven = false, progress = false, nest = false;
  NameSheets sheets;
};

// "2/5": the second of five.
bool read_part(const std::string& text, NameExportChoice& choice) {
  const std::size_t slash = text.find('/');
  if (slash == std::string::npos)
    return false;
  const char* end = text.data() + text.size();
  const auto a = std::from_chars(text.data(), text.data() + slash, choice.part);
  const auto b = std::from_chars(text.data() + slash + 1, end, choice.parts);
  if (a.ec != std::errc() || a.ptr != text.data() + slash || b.ec != std::errc() || b.ptr != end || choice.part < 1 ||
      choice.part > choice.parts)
    return false;
  --choice.part;
  return true;
}

const std::map<std::string, NameFit> fits_by_name{{"keep", NameFit::Keep},
                                                  {"shrink", NameFit::Shrink},
                                                  {"spread", NameFit::Spread},
                                                  {"tighten", NameFit::Tighten},
                                                  {"two-lines", NameFit::TwoLines}};

Result<int> run_names(const NamesOptions& o, CommandContext& context) {
  const Result<OpenJob> job = open_job(o.job, context);
  if (!job)
    return job.error();
  const Document& document = job->document;
  const Result<std::string> bytes = context.storage.read(o.list);
  if (!bytes)
    return bytes.error();
  Result<ReadList> read = read_name_list(*bytes, wanted_columns(document));
  if (!read)
    return at_place(read.error(), o.list);
  if (read->latin)
    context.err << o.list << ": not UTF-8; taken as ISO 8859-1\n";
  NameList& list = read->list;
  for (const auto& p : document.pieces) {
    if (p->lettering() == nullptr || !has_places(*p->lettering()))
      continue;
    NameRule rule = document.names != nullptr ? rule_for(*document.names, p->id) : rule_for(list, p->id);
    rule.fit = o.fit.value_or(rule.fit);
    rule.room = o.room.value_or(rule.room), rule.least_caps = o.least_caps.value_or(rule.least_caps);
    list.rules.push_back(rule);
  }
  NameExportChoice choice{o.folder, o.format};
  choice.options = usual_options(document), choice.as_driven = o.as_driven, choice.threads = o.threads;
  if (!o.part.empty() && !read_part(o.part, choice))
    return misuse("which of how many parts, as 1/4", "--part");
  std::error_code fault;
  std::filesystem::create_directories(o.folder, fault);
  if (!std::filesystem::is_directory(o.folder, fault))
    return misuse("this is no folder, and none can be made", o.folder);
  ExportWatch watch;
  if (o.progress)
    watch.progress = [&, shown = -1](double share) mutable {
      if (const int percent = static_cast<int>(share * 100); percent != shown)
        context.err << (shown = percent) << " %\n" << std::flush;
    };
  const DocumentEvaluator evaluator(*job->faces, std::numeric_limits<std::size_t>::max(),
                                    DocumentEvaluator::Warps::Exact, kept_bytes);
  NestedNames nested;
  Result<NameExport> done = Error{};
  if (o.nest) {
    const Result<NestedNames> made =
        export_names_nested(document, list, evaluator, choice, o.sheets, context.storage, watch);
    if (!made)
      return made.error();
    nested = *made;
    done = nested.rows;
  } else
    done = export_names(document, list, evaluator, choice, context.storage, watch);
  if (!done)
    return done.error();
  Json failed = Json::array(), found = Json::array();
  for (const NameFailure& f : done->failed)
    failed.push_back({{"row", f.row + 1}, {"why", f.why.message()}});
  for (const NameFound& f : done->found)
    found.push_back({{"row", f.row + 1}, {"what", english(words_of(f.finding))}});
  Json summary{{"rows", done->rows}, {"written", done->written}, {"failed", failed}, {"look_at", found}};
  if (o.nest)
    summary["sheets"] = nested.sheets, summary["used_mm"] = nested.used;
  context.out << summary.dump() << "\n";
  return done->failed.empty() ? 0 : 1;
}

} // namespace

void add_names_command(CLI::App& app, CommandContext& context) {
  auto o = std::make_shared<NamesOptions>();
  CLI::App* c = app.add_subcommand("names", "A file for each row of a list, filled into the job's {places}");
  c->add_option("JOB", o->job, ".frelm file, or an SVG with a job in it")->required();
  c->add_option("LIST", o->list, "CSV: parted by commas, semicolons or tabs")->required();
  c->add_option("-o,--output", o->folder, "folder for the files")->required();
  c->add_option("--format", o->format, "svg, dxf, pdf, eps, plt or png")->capture_default_str();
  c->add_option("--part", o->part, "K/N: every N-th row from the K-th on, so that several machines share a list");
  c->add_option("--fit", o->fit, "what has no room; else as the job says, or shrink")
      ->transform(CLI::CheckedTransformer(fits_by_name));
  c->add_option("--room", o->room, "mm along the line; else the guide's length");
  c->add_option("--least-caps", o->least_caps, "mm: lower capitals are told");
  c->add_option("--threads", o->threads, "0: as many as there are cores");
  c->add_flag("--as-driven", o->as_driven, "as the machine moves, by the job's materials");
  c->add_flag("--nest", o->nest, "all rows on sheets, close together, a file a sheet");
  c->add_option("--width", o->sheets.width, "mm of a sheet across, for --nest")->check(CLI::Range(1.0, 10'000.0));
  c->add_option("--length", o->sheets.length, "mm of a sheet along; 0: a roll")->check(CLI::Range(0.0, 10'000.0));
  c->add_option("--between", o->sheets.apart, "mm between names")->check(CLI::Range(0.0, 1000.0));
  c->add_option("--margin", o->sheets.margin, "mm at the edges")->check(CLI::Range(0.0, 1000.0));
  c->add_flag("--progress", o->progress, "tell how far it is");
  c->callback([=, &context] { context.run = [=, &context] { return run_names(*o, context); }; });
}

} // namespace frelm
