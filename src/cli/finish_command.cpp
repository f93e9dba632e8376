// frelm-cli finish IN.svg -o OUT.svg [--weld] [--border MM]... [--inside|--both] [--around-all] [--corners …]
//                  [--taken-out OVERLAP] [--shade ANGLE,DEPTH] [--round-corners R] … : the steps in the order given
// What stands after a --border or a --shade is about that one.
#include "cli/geometry.h"
#include "lettering/finish_layers.h"

#include <CLI/CLI.hpp>
#include <charconv>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace frelm {
namespace {

struct FinishCommandOptions {
  Finish finish{{}};
  std::string wrong; // what was typed that makes no sense
  GeometryFiles files;
};

Result<int> run_finish(const FinishCommandOptions& o, CommandContext& context) {
  if (!o.wrong.empty())
    return misuse(o.wrong, "finish");
  const Result<GeometryInput> input = read_geometry(o.files, context);
  if (!input)
    return input.error();
  const auto drawn = std::make_shared<const std::vector<Outline>>([&] {
    std::vector<Outline> all;
    for (const auto& file : input->files)
      all.insert(all.end(), file.begin(), file.end());
    return all;
  }());
  std::vector<double> seconds;
  const auto work = [&] { return finish([&] { return *drawn; }, nullptr, o.finish); };
  const auto done = run_timed(work, o.files.repeat, seconds);
  if (!done)
    return done.error();
  const Finished& finished = **done;
  Piece piece;
  piece.name = input->name;
  PieceResult result;
  result.finished = *done, result.outline = finished.letters().outline;
  CutSheet sheet{input->frame, {}};
  add_cut_layers(sheet, piece, result);
  nlohmann::ordered_json json;
  json["layers"] = nlohmann::ordered_json::array();
  for (const CutPiece& layer : sheet.pieces) {
    sheet.frame.add(layer.outline.bounds().grown(1));
    json["layers"].push_back({{"id", layer.layer.empty() ? "letters" : layer.layer},
                              {"colour", to_hex(layer.colour)},
                              {"nodes", layer.outline.node_count()},
                              {"contours", layer.outline.contours.size()},
                              {"area", layer.outline.area()}});
  }
  json["steps"] = nlohmann::ordered_json::array();
  for (std::size_t i = 0; i < finished.steps.size(); ++i) {
    const StepReport& did = finished.steps[i];
    json["steps"].push_back({{"step", step_name(o.finish.steps[i].what).text},
                             {"nodes_in", did.nodes_in},
                             {"nodes_out", did.nodes_out},
                             {"worst_deviation", did.worst},
                             {"vanished", did.vanished},
                             {"holes_closed", did.holes_out},
                             {"rounded", did.rounded},
                             {"smaller", did.smaller},
                             {"left", did.left}});
    if (did.at)
      json["steps"].back()["at"] = {did.at->x, did.at->y};
  }
  json["worst_join"] = finished.report.worst_move;
  if (!seconds.empty()) {
    std::sort(seconds.begin(), seconds.end());
    json["median_s"] = seconds[seconds.size() / 2];
  }
  if (const Result<Done> written = context.storage.write(o.files.output, write_svg(sheet)); !written)
    return written.error();
  context.out << json.dump() << "\n";
  return 0;
}

} // namespace

void add_finish_command(CLI::App& app, CommandContext& context) {
  auto o = std::make_shared<FinishCommandOptions>();
  CLI::App* c = app.add_subcommand("finish", "Borders, shades and welds around outlines, a layer each");
  const auto add = [o](const FinishAction& what) {
    o->finish.steps.emplace_back();
    o->finish.steps.back().what = what;
  };
  const auto last = [o]<class Step>(const char* option, const char* of, const std::function<void(Step&)>& change) {
    Step* step = o->finish.steps.empty() ? nullptr : std::get_if<Step>(&o->finish.steps.back().what);
    if (step != nullptr)
      change(*step);
    else
      o->wrong = fmt::format("{} belongs behind a {}", option, of);
  };
  const auto border = [last](const char* option, std::function<void(BorderStep&)> change) {
    last.template operator()<BorderStep>(option, "--border", change);
  };
  const auto shade = [last](const char* option, std::function<void(ShadeStep&)> change) {
    last.template operator()<ShadeStep>(option, "--shade", change);
  };
  c->add_flag_callback(
       "--weld", [=] { add(WeldStep{}); }, "unite what touches")
      ->trigger_on_parse();
  const auto number = [c](const char* name, std::function<void(double)> take, const char* help) {
    return c->add_option_function<double>(name, std::move(take), help)->trigger_on_parse();
  };
  number(
      "--border",
      [=](double d) {
        // Borders that follow one another are rings of one.
        if (!o->finish.steps.empty())
          if (auto* b = std::get_if<BorderStep>(&o->finish.steps.back().what))
            if (*b == BorderStep{.rings = b->rings}) {
              b->rings.push_back({.distance = d});
              return;
            }
        add(BorderStep{.rings = {{.distance = d}}});
      },
      "mm; a ring around the outlines");
  c->add_flag_callback(
       "--inside", [=] { border("--inside", [](BorderStep& b) { b.side = BorderSide::Inside; }); },
       "the rings lie inside, on the outlines")
      ->trigger_on_parse();
  c->add_flag_callback(
       "--both", [=] { border("--both", [](BorderStep& b) { b.side = BorderSide::Both; }); },
       "half inside, half outside")
      ->trigger_on_parse();
  c->add_flag_callback(
       "--around-all", [=] { border("--around-all", [](BorderStep& b) { b.of = BorderOf::AllSoFar; }); },
       "around all that stands so far")
      ->trigger_on_parse();
  const std::map<std::string, JoinStyle> joins{
      {"round", JoinStyle::Round}, {"mitre", JoinStyle::Mitre}, {"bevel", JoinStyle::Bevel}};
  c->add_option_function<JoinStyle>(
       "--corners", [=](const JoinStyle& join) { border("--corners", [&](BorderStep& b) { b.join = join; }); },
       "round, mitre or bevel")
      ->transform(CLI::CheckedTransformer(joins))
      ->trigger_on_parse();
  number(
      "--mitre-limit", [=](double v) { border("--mitre-limit", [&](BorderStep& b) { b.mitre_limit = v; }); },
      "a longer corner is bevelled; in distances");
  c->add_flag_callback(
       "--drop-holes", [=] { border("--drop-holes", [](BorderStep& b) { b.holes = HoleRule::Drop; }); },
       "fill every hole of the rings")
      ->trigger_on_parse();
  number(
      "--drop-holes-under",
      [=](double v) {
        border("--drop-holes-under", [&](BorderStep& b) { b.holes = HoleRule::DropSmall, b.hole_size = v; });
      },
      "fill holes that fit into a square of so many mm");
  number(
      "--taken-out",
      [=](double v) { border("--taken-out", [&](BorderStep& b) { b.taken_out = true, b.overlap = v; }); },
      "mm of overlap; layers are laid side by side");
  for (const auto& [name, kind] : {std::pair{"--shade", ShadeKind::Block}, std::pair{"--drop-shade", ShadeKind::Drop}})
    c->add_option_function<std::vector<double>>(
         name,
         [=, kind = kind](const std::vector<double>& v) {
           add(ShadeStep{.kind = kind, .angle = v.at(0), .depth = v.at(1)});
         },
         "ANGLE,DEPTH: degrees, 0 = to the right, clockwise; mm")
        ->delimiter(',')
        ->expected(2)
        ->trigger_on_parse();
  const std::map<std::string, ShadeOf> throwers{{"letters", ShadeOf::Letters}, {"ring", ShadeOf::LastRing}};
  c->add_option_function<ShadeOf>(
       "--shade-of", [=](const ShadeOf& of) { shade("--shade-of", [&](ShadeStep& s) { s.of = of; }); },
       "letters or ring")
      ->transform(CLI::CheckedTransformer(throwers))
      ->trigger_on_parse();
  number(
      "--gap", [=](double v) { shade("--gap", [&](ShadeStep& s) { s.apart = true, s.gap = v; }); },
      "mm between the shade and what throws it");
  c->add_flag_callback(
       "--with-ring", [=] { shade("--with-ring", [](ShadeStep& s) { s.with_ring = true; }); },
       "the shade is part of the last ring")
      ->trigger_on_parse();
  number(
      "--thin", [=](double v) { add(ThinStep{v}); }, "mm; fewer nodes in all that stands so far");
  number(
      "--round-corners", [=](double v) { add(RoundStep{v}); }, "mm; arcs of this radius in all that stands so far");
  const std::map<std::string, WhichCorners> which{
      {"all", WhichCorners::All}, {"outer", WhichCorners::Outer}, {"inner", WhichCorners::Inner}};
  c->add_option_function<WhichCorners>(
       "--which",
       [=](const WhichCorners& w) {
         last.template operator()<RoundStep>("--which", "--round-corners", [&](RoundStep& r) { r.which = w; });
       },
       "all, outer or inner corners")
      ->transform(CLI::CheckedTransformer(which))
      ->trigger_on_parse();
  number(
      "--sharper-than",
      [=](double v) {
        last.template operator()<RoundStep>("--sharper-than", "--round-corners",
                                            [&](RoundStep& r) { r.sharper_than = v; });
      },
      "degrees; only corners whose sides open less");
  c->add_option_function<std::vector<double>>(
       "--tab",
       [=](const std::vector<double>& v) {
         TabStep tab{.outer = v.at(0), .inner = v.at(1), .depth = v.at(2)};
         if (v.size() == 5)
           tab.across = v[3], tab.down = v[4];
         add(tab);
         if (v.size() == 4)
           o->wrong = "--tab takes three measures, or five";
         if (!(tab.outer >= least_tab && tab.outer <= most_distance && tab.inner >= 0 && tab.depth >= least_tab_depth))
           o->wrong = fmt::format("--tab needs a diameter from {} to {} mm, a hole of 0 or more and a depth from {} mm",
                                  least_tab, most_distance, least_tab_depth);
       },
       "OUTER,HOLE,DEPTH[,ACROSS,DOWN]: diameters and depth, mm; its place as shares of the extent")
      ->delimiter(',')
      ->expected(3, 5)
      ->trigger_on_parse();
  c->add_flag_callback(
       "--mirror", [=] { add(MirrorStep{}); }, "left and right change places")
      ->trigger_on_parse();
  add_geometry_files(*c, o->files, 1, 1000);
  c->callback([=, &context] { context.run = [=, &context] { return run_finish(*o, context); }; });
}

} // namespace frelm
