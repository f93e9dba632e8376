// frelm-cli parts JOB|IN.svg --json [--stock]: what leaves the sheet in one piece, what is loose, what holds together
// frelm-cli ties IN.svg --width MM [--ends square|round] [--stencil [--each 1|2] [--angle DEG]] -o OUT.svg
// frelm-cli tie-in WORD.svg --frame FRAME.svg --contacts N --least MM [--turn DEG] [--smallest K] [--largest K]
//                  [--margin MM] -o OUT.svg: the word in the frame at N places, as one piece; exit 1 where it can't be
#include "cli/geometry.h"
#include "cutting/sheet_parts.h"
#include "document/evaluate.h"
#include "formats/job_svg.h"
#include "formats/svg.h"
#include "geom/contacts.h"
#include "geom/cut_parts.h"
#include "geom/tie_in.h"
#include "geom/ties.h"
#include "geom/weak_link.h"

#include <CLI/CLI.hpp>
#include <nlohmann/json.hpp>
#include <ostream>

namespace frelm {
namespace {

struct PartsOptions {
  std::string path;
  bool json = false, stock = false;
};

// What is cut, each shape as it is painted; of a job what leaves for the knife.
struct CutShapes {
  std::vector<Outline> shapes;
  bool job = false;
};
Result<CutShapes> cut_shapes(const std::string& path, CommandContext& context) {
  const Result<std::string> bytes = context.storage.read(path);
  if (!bytes)
    return bytes.error();
  CutShapes out;
  if (looks_like_drawing(*bytes) && !job_in_svg(*bytes)) {
    const Result<Drawing> drawing = read_drawing_file(path, context);
    if (!drawing)
      return drawing.error();
    for (const DrawnShape& s : drawing->shapes)
      out.shapes.push_back(s.outline);
    return out;
  }
  const Result<OpenJob> job = open_job(path, context);
  if (!job)
    return job.error();
  const DocumentEvaluator evaluator(*job->faces);
  const Result<CutSheet> sheet = cut_sheet(job->document, evaluator);
  if (!sheet)
    return sheet.error();
  for (const CutPiece& p : sheet->pieces)
    if (p.destination == Destination::Knife)
      out.shapes.push_back(p.outline);
  out.job = true;
  return out;
}

nlohmann::ordered_json contacts_json(const std::vector<Contact>& contacts) {
  nlohmann::ordered_json out = nlohmann::ordered_json::array();
  for (const Contact& c : contacts)
    out.push_back({{"x", c.at.x}, {"y", c.at.y}, {"width", c.width}});
  return out;
}
Result<Outline> painted(const std::vector<Outline>& shapes) {
  Result<WeldResult> united = weld(shapes);
  if (!united)
    return united.error();
  return std::move(united->outline);
}

Result<int> run_parts(const PartsOptions& o, CommandContext& context) {
  const Result<CutShapes> cut = cut_shapes(o.path, context);
  if (!cut)
    return cut.error();
  // Of a drawing what is painted decides; of a job every line is cut.
  Result<Outline> all = cut->job ? cut_area(cut->shapes) : painted(cut->shapes);
  if (!all)
    return all.error();
  const std::vector<CutPart> parts = cut_parts(*all), stock = loose_stock(*all);
  nlohmann::ordered_json json;
  json["parts"] = parts.size() + (o.stock ? stock.size() : 0);
  json["loose"] = nlohmann::ordered_json::array();
  const auto add = [&](const CutPart& p) { json["loose"].push_back({{"x", p.at.x}, {"y", p.at.y}, {"area", p.area}}); };
  for (std::size_t i = 1; i < parts.size(); ++i)
    add(parts[i]);
  if (o.stock)
    std::for_each(stock.begin(), stock.end(), add);
  std::vector<Contact> holds;
  std::vector<Outline> sound; // each shape by itself
  for (const Outline& shape : cut->shapes) {
    Result<WeldResult> own = weld({shape});
    if (!own)
      return own.error();
    sound.push_back(std::move(own->outline));
  }
  std::vector<Box> boxes;
  for (const Outline& shape : sound)
    boxes.push_back(shape.bounds().grown(touch_distance));
  for (const std::vector<std::size_t>& near : touching_groups(boxes))
    for (std::size_t i = 0; i < near.size(); ++i)
      for (std::size_t k = i + 1; k < near.size(); ++k) {
        if (!boxes[near[i]].overlaps(boxes[near[k]]))
          continue;
        const Result<std::vector<Contact>> found = contacts(sound[near[i]], sound[near[k]]);
        if (!found)
          return found.error();
        holds.insert(holds.end(), found->begin(), found->end());
      }
  json["contacts"] = contacts_json(holds);
  std::optional<WeakLink> weakest;
  for (const CutPart& p : parts)
    if (const auto link = weakest_link(p.outline); link && (!weakest || link->width < weakest->width))
      weakest = link;
  if (weakest)
    json["weakest"] = weakest->width;
  else
    json["weakest"] = nullptr;
  if (o.json) {
    context.out << json.dump() << "\n";
    return 0;
  }
  context.out << (json["parts"] == 1 ? "1 part" : json["parts"].dump() + " parts") << ", " << json["contacts"].size()
              << " contacts";
  if (weakest)
    context.out << ", narrowest link " << weakest->width << " mm";
  context.out << "\n";
  for (const auto& l : json["loose"])
    context.out << "loose at " << l["x"].dump() << ", " << l["y"].dump() << ": " << l["area"].dump() << " mm2\n";
  return 0;
}

struct TiesOptions {
  TieForm form;
  bool stencil = false;
  BridgeChoice bridges;
  GeometryFiles files;
};

Result<int> run_ties(const TiesOptions& o, CommandContext& context) {
  const Result<GeometryInput> input = read_geometry(o.files, context);
  if (!input)
    return input.error();
  const Result<WeldResult> sound = weld(input->files.front());
  if (!sound)
    return sound.error();
  std::vector<double> seconds;
  std::vector<Tie> ties;
  const auto work = [&] {
    ties = o.stencil ? stencil_bridges(sound->outline, o.form, o.bridges) : ties_for_loose(sound->outline, o.form);
    return o.stencil ? with_bridges(sound->outline, ties, o.form) : with_ties(sound->outline, ties, o.form);
  };
  const Result<WeldResult> result = run_timed(work, o.files.repeat, seconds);
  if (!result)
    return result.error();
  nlohmann::ordered_json json = weld_report_json(result->report);
  json["ties"] = nlohmann::ordered_json::array();
  for (const Tie& t : ties)
    json["ties"].push_back({{"from", {t.from.x, t.from.y}}, {"to", {t.to.x, t.to.y}}});
  json["parts"] = cut_parts(result->outline).size();
  json["loose_stock"] = loose_stock(result->outline).size();
  return write_geometry({result->outline}, o.files, *input, json, std::move(seconds), context);
}

nlohmann::ordered_json answer_json(const TiedIn& t) {
  return {{"scale", t.scale}, {"turn", t.turn}, {"contacts", contacts_json(t.contacts)}};
}

struct TieInOptions {
  TieInWish wish;
  std::string frame;
  GeometryFiles files;
};

Result<int> run_tie_in(const TieInOptions& o, CommandContext& context) {
  GeometryFiles both = o.files;
  both.inputs.push_back(o.frame);
  const Result<GeometryInput> input = read_geometry(both, context);
  if (!input)
    return input.error();
  const Result<WeldResult> word = weld(input->files[0]), frame = weld(input->files[1]);
  if (!word)
    return word.error();
  if (!frame)
    return frame.error();
  std::vector<double> seconds;
  const auto work = [&] { return tie_in(word->outline, frame->outline, o.wish); };
  const Result<TieInFound> found = run_timed(work, o.files.repeat, seconds);
  if (!found)
    return found.error();
  if (found->best.empty()) {
    nlohmann::ordered_json json{
        {"missing", found->missing}, {"short_by", found->short_by}, {"one_sided", found->one_sided}};
    json["nearest"] = found->nearest ? answer_json(*found->nearest) : nlohmann::ordered_json(nullptr);
    context.out << json.dump() << "\n";
    return 1;
  }
  const TiedIn& best = found->best.front();
  const Result<WeldResult> one = weld({word->outline.transformed(best.place()), frame->outline});
  if (!one)
    return one.error();
  // What was apart in the word, as the dot of an i, is tied to the rest.
  const TieForm form{o.wish.least, TieEnds::Square};
  const std::vector<Tie> ties = ties_for_loose(one->outline, form);
  const Result<WeldResult> whole = with_ties(one->outline, ties, form);
  if (!whole)
    return whole.error();
  nlohmann::ordered_json json = weld_report_json(whole->report);
  json.update(answer_json(best));
  json["ties"] = ties.size(), json["parts"] = cut_parts(whole->outline).size();
  GeometryInput around = *input; // the sheet is the frame's
  around.frame = frame->outline.bounds();
  return write_geometry({whole->outline}, o.files, around, json, std::move(seconds), context);
}

} // namespace

void add_parts_commands(CLI::App& app, CommandContext& context) {
  auto parts = std::make_shared<PartsOptions>();
  CLI::App* p = app.add_subcommand("parts", "How many pieces a cut falls into, what is loose, what holds together");
  p->add_option("file", parts->path, "job file or SVG")->required();
  p->add_flag("--json", parts->json, "as JSON");
  p->add_flag("--stock", parts->stock, "count what falls out of the sheet (counters) as well");
  p->callback([=, &context] { context.run = [=, &context] { return run_parts(*parts, context); }; });

  auto ties = std::make_shared<TiesOptions>();
  CLI::App* t = app.add_subcommand("ties", "Join what is loose by ties, or bridge the counters of a stencil");
  add_geometry_files(*t, ties->files);
  t->add_option("--width", ties->form.width, "mm")->required()->check(CLI::Range(least_tie, most_tie));
  const std::map<std::string, TieEnds> ends{{"square", TieEnds::Square}, {"round", TieEnds::Round}};
  t->add_option("--ends", ties->form.ends, "square or round")->transform(CLI::CheckedTransformer(ends));
  t->add_flag("--stencil", ties->stencil, "bridges across the strokes around counters");
  t->add_option("--each", ties->bridges.each, "bridges a counter")->check(CLI::Range(1, 2));
  t->add_option("--angle", ties->bridges.angle, "degrees from level, clockwise");
  t->callback([=, &context] { context.run = [=, &context] { return run_ties(*ties, context); }; });

  auto in = std::make_shared<TieInOptions>();
  CLI::App* w = app.add_subcommand("tie-in", "Put a word into a frame so that it holds at several places");
  add_geometry_files(*w, in->files, 1, 1, "SVG file of the word");
  w->add_option("--frame", in->frame, "SVG file of the frame")->required();
  w->add_option("--contacts", in->wish.contacts, "places at which it holds")->check(CLI::Range(1, 100));
  w->add_option("--least", in->wish.least, "mm, how wide each is")->check(CLI::Range(least_tie, most_tie));
  w->add_option("--turn", in->wish.turn, "degrees it may be turned by either way")->check(CLI::Range(0, 180));
  w->add_option("--smallest", in->wish.smallest, "least size, in shares of its own")->check(CLI::PositiveNumber);
  w->add_option("--largest", in->wish.largest, "largest size")->check(CLI::PositiveNumber);
  w->add_option("--margin", in->wish.margin, "mm, off the frame's other holes")->check(CLI::NonNegativeNumber);
  w->callback([=, &context] { context.run = [=, &context] { return run_tie_in(*in, context); }; });
}

} // namespace frelm
