// frelm-cli check JOB|IN.svg [--json]
#include "cli/open_job.h"
#include "cutting/check.h"
#include "document/edits.h"
#include "document/piece_name.h"
#include "formats/job_svg.h"
#include "formats/svg.h"

#include <CLI/CLI.hpp>
#include <nlohmann/json.hpp>
#include <ostream>

namespace frelm {
namespace {

Result<OpenJob> drawing_as_job(const std::string& path, CommandContext& context) {
  const Result<Drawing> drawing = read_drawing_file(path, context);
  if (!drawing)
    return drawing.error();
  OpenJob job{{}, std::make_unique<FaceLibrary>("", false)};
  job.document.sheet = {drawing->frame.width(), drawing->frame.height()};
  const Affine onto_sheet = Affine::translation({-drawing->frame.x0, -drawing->frame.y0});
  std::size_t n = 0;
  for (const DrawnShape& s : drawing->shapes) {
    Piece piece;
    piece.name = s.id.empty() ? "shape " + std::to_string(++n) : s.id;
    piece.colour = s.colour;
    piece.content =
        OutlinePiece{std::make_shared<const Outline>(s.outline.transformed(onto_sheet)), Finish{{}}, nullptr, {}};
    job.document = add_piece(job.document, std::move(piece)).document;
  }
  return job;
}

const char* weight_name(Weight w) {
  return w == Weight::MustFix ? "must fix" : w == Weight::Look ? "look" : "note";
}

Result<int> run_check(const std::string& path, bool json, CommandContext& context) {
  const Result<std::string> bytes = context.storage.read(path);
  if (!bytes)
    return bytes.error();
  const bool drawing = looks_like_drawing(*bytes) && !job_in_svg(*bytes);
  Result<OpenJob> job = drawing ? drawing_as_job(path, context) : open_job(path, context);
  if (!job)
    return job.error();
  const DocumentEvaluator evaluator(*job->faces);
  const CheckReport report = check(job->document, evaluator);
  nlohmann::ordered_json list = nlohmann::ordered_json::array();
  for (const Finding& f : report.findings) {
    if (json) {
      nlohmann::ordered_json cures = nlohmann::ordered_json::array();
      for (const Cure c : f.cures)
        cures.push_back(cure_id(c));
      const Piece* piece = job->document.find(f.piece);
      list.push_back({{"id", finding_id(f.kind)},
                      {"weight", weight_name(f.weight)},
                      {"title", finding_title(f.kind).text},
                      {"detail", english(f.detail)},
                      {"piece", piece != nullptr ? display_name(job->document, *piece) : ""},
                      {"where", f.where.empty() ? nlohmann::ordered_json(nullptr)
                                                : nlohmann::ordered_json{{"x", f.where.x0},
                                                                         {"y", f.where.y0},
                                                                         {"width", f.where.width()},
                                                                         {"height", f.where.height()}}},
                      {"cures", cures},
                      {"set_aside", f.aside}});
    } else
      context.out << weight_name(f.weight) << ": " << finding_title(f.kind).text << " — " << english(f.detail) << "\n";
  }
  if (json)
    context.out << nlohmann::ordered_json{{"findings", list}}.dump() << "\n";
  return report.to_look_at() > 0 ? 1 : 0;
}

} // namespace

void add_check_command(CLI::App& app, CommandContext& context) {
  auto path = std::make_shared<std::string>();
  auto json = std::make_shared<bool>(false);
  CLI::App* c = app.add_subcommand("check", "What the knife would meet in a job or an SVG file; exit 1 with findings");
  c->add_option("file", *path, "job file or SVG")->required();
  c->add_flag("--json", *json, "findings as JSON");
  c->callback([=, &context] { context.run = [=, &context] { return run_check(*path, *json, context); }; });
}

} // namespace frelm
