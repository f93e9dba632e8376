// frelm-cli import FILE… -o JOB.frelm [--unit px|pt|mm|cm|in] [--lines-up-to MM] [--page N]
#include "cli/open_job.h"
#include "document/job_file.h"
#include "formats/import.h"
#include "formats/picture_read.h"

#include <CLI/CLI.hpp>
#include <filesystem>
#include <nlohmann/json.hpp>
#include <ostream>

namespace frelm {
namespace {

struct ImportOptions {
  std::vector<std::string> files;
  std::string output, unit;
  double widest_line = usual_widest_line;
  int page = 1;
};

const char* name_of(SizeFrom size) {
  return size == SizeFrom::Lengths ? "lengths" : size == SizeFrom::Pixels ? "pixels" : "nothing";
}

Result<double> factor_for(const Drawing& drawing, const std::string& unit) {
  if (unit.empty() || drawing.sizes.empty())
    return 1.0; // it says
  for (const SizeChoice& c : drawing.sizes)
    if (c.name == unit)
      return c.factor;
  return misuse("not a unit for this drawing", "--unit");
}

nlohmann::ordered_json left_out_json(const std::vector<LeftOut>& list) {
  nlohmann::ordered_json out = nlohmann::ordered_json::array();
  for (const LeftOut& l : list) {
    nlohmann::ordered_json one{{"what", words_of(l.what).text}, {"count", l.count}};
    if (!l.detail.empty())
      one["first"] = l.detail;
    if (!l.places.empty())
      one["place"] = {l.places.front().x0, l.places.front().y0, l.places.front().x1, l.places.front().y1};
    out.push_back(std::move(one));
  }
  return out;
}

// A picture as a backing: in the middle of the sheet, or the sheet as large as it says where there is none yet.
Result<Document> import_picture(Document document, const std::string& path, const std::string& bytes, bool first,
                                nlohmann::ordered_json& report) {
  const Sheet& sheet = document.sheet;
  Result<PictureAdded> added =
      add_picture(document, bytes, std::filesystem::path(path).stem().string(),
                  first ? std::nullopt : std::optional(Point{sheet.width / 2, sheet.height / 2}));
  if (!added)
    return at_place(added.error(), path);
  const Backing& backing = added->document.backings.back();
  report.push_back({{"file", path},
                    {"backing", true},
                    {"width_px", added->width},
                    {"height_px", added->height},
                    {"kept_width_px", backing.picture->width},
                    {"width_mm", backing_width(backing)},
                    {"height_mm", backing_height(backing)}});
  return std::move(added->document);
}

Result<int> run_import(const ImportOptions& o, CommandContext& context) {
  Document document;
  nlohmann::ordered_json report = nlohmann::ordered_json::array();
  bool first = true;
  for (const std::string& path : o.files) {
    const Result<std::string> bytes = context.storage.read(path);
    if (!bytes)
      return bytes.error();
    if (looks_like_picture(*bytes)) {
      Result<Document> with = import_picture(std::move(document), path, *bytes, first, report);
      if (!with)
        return with.error();
      document = std::move(*with);
      first = false;
      continue;
    }
    DrawingReadOptions options;
    options.widest_line = o.widest_line;
    options.page = o.page;
    const Result<Drawing> drawing = read_drawing_bytes(path, *bytes, context, options);
    if (!drawing)
      return drawing.error();
    const Result<double> size = factor_for(*drawing, o.unit);
    if (!size)
      return size.error();
    Result<Imported> added =
        first ? job_from_drawing(*drawing, *size) : add_drawing(document, *drawing, {std::nullopt, *size});
    if (!added)
      return at_place(added.error(), path);
    document = std::move(added->document);
    report.push_back({{"file", path},
                      {"pieces", added->pieces.size()},
                      {"width_mm", drawing->frame.width() * *size},
                      {"height_mm", drawing->frame.height() * *size},
                      {"size_from", name_of(drawing->size)},
                      {"pages", drawing->pages},
                      {"skipped", left_out_json(added->left_out)}});
    first = false;
  }
  const FaceLibrary none("", false);
  if (const Result<Done> done = context.storage.write(o.output, write_job(document, none)); !done)
    return done.error();
  context.out << nlohmann::ordered_json{{"files", report}}.dump() << "\n";
  return 0;
}

} // namespace

void add_import_command(CLI::App& app, CommandContext& context) {
  auto o = std::make_shared<ImportOptions>();
  CLI::App* c = app.add_subcommand(
      "import", "Make a job of drawings, each where its page says, and pictures as backings; the sheet is the first's");
  c->add_option("files", o->files, "drawings")->required();
  c->add_option("-o", o->output, "job file to write")->required();
  c->add_option("--unit", o->unit, "one unit of a drawing that doesn't say: px (1/96 in), pt, mm, cm, in")
      ->check(CLI::IsMember({"px", "pt", "mm", "cm", "in"}));
  c->add_option("--lines-up-to", o->widest_line, "mm: wider strokes are the areas that they paint")
      ->check(CLI::Range(0.0, 100.0));
  c->add_option("--page", o->page, "of files with pages")->check(CLI::Range(1, 1000000));
  c->callback([=, &context] { context.run = [=, &context] { return run_import(*o, context); }; });
}

} // namespace frelm
