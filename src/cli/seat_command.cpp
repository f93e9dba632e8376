// frelm-cli seat: a line of text on a guide, without a job.
#include "cli/command.h"
#include "document/validity.h"
#include "formats/svg.h"
#include "geom/path_data.h"
#include "lettering/evaluate.h"
#include "type/font_face.h"

#include <CLI/CLI.hpp>
#include <charconv>
#include <fmt/format.h>
#include <ostream>

namespace frelm {
namespace {

struct SeatOptions {
  std::string text, face, guide, start = "0", arc, output;
  double size = 0, circle = 0, at = 0, offset = 0, letter_spacing = 0, word_spacing = 0;
  SizeBy size_by = SizeBy::Capitals;
  RunAnchor anchor = RunAnchor::Start;
  bool side_right = false, json = false;
  SitBy sit = SitBy::Base;
  Stance stance = Stance::Turn;
  SpacingMode spacing = SpacingMode::AsSet;
  double gap = 0, min_gap = 0;
  bool has_circle = false, has_start = false, has_anchor = false, has_gap = false, fill = false;
};

Result<double> number(std::string_view text, const std::string& flag) {
  double v = 0;
  const auto [end, status] = std::from_chars(text.data(), text.data() + text.size(), v);
  if (status != std::errc() || end != text.data() + text.size() || !(std::abs(v) <= largest_number))
    return misuse(fmt::format("'{}' is not a number", text), flag);
  return v;
}

Result<double> start_on(const Curve& guide, const SeatOptions& o) {
  if (!o.start.ends_with('%'))
    return number(o.start, "--start");
  const Result<double> percent = number(std::string_view(o.start).substr(0, o.start.size() - 1), "--start");
  if (!percent)
    return percent.error();
  return guide.length() * *percent / 100;
}

Result<ArcBend> parse_arc(const std::string& text) {
  ArcBend arc;
  const std::size_t equals = text.find('=');
  const std::string name = text.substr(0, equals);
  if (equals == std::string::npos || (name != "radius" && name != "rise" && name != "sweep"))
    return misuse("takes radius=MM, rise=MM or sweep=DEG", "--arc");
  arc.by = name == "radius" ? ArcBy::Radius : name == "rise" ? ArcBy::Rise : ArcBy::Sweep;
  const Result<double> value = number(std::string_view(text).substr(equals + 1), "--arc");
  if (!value)
    return value.error();
  arc.value = *value;
  return arc;
}

// The guide and where on it the run's anchor lies, before sit and offset.
struct SeatGuide {
  Curve curve;
  RunPlace place;
};

Result<SeatGuide> guide_for(const SeatOptions& o, const SpacedText& spaced) {
  SeatGuide out;
  out.place.anchor = o.anchor;
  const int given = (o.guide.empty() ? 0 : 1) + (o.arc.empty() ? 0 : 1) + (o.has_circle ? 1 : 0);
  if (given != 1)
    return misuse("give one of --guide, --arc and --circle", "seat");
  if (!o.arc.empty()) {
    if (o.has_start || o.has_anchor)
      return misuse("an arc is centred on its run; leave --start and --anchor out", "--arc");
    const Result<ArcBend> arc = parse_arc(o.arc);
    if (!arc)
      return arc.error();
    const Result<double> radius = arc_radius(*arc, spaced.longest);
    if (!radius)
      return radius.error();
    out.curve = arc_curve(o.side_right ? ArcSide::Under : ArcSide::Over, *radius, {});
    out.place.s = pi * *radius;
    out.place.anchor = RunAnchor::Middle;
    return out;
  }
  if (o.has_circle) {
    if (!(o.circle > 0))
      return misuse("the circle's radius must be more than 0 mm", "--circle");
    if (o.has_start)
      return misuse("use --at with a circle, not --start", "--start");
    const double s = o.circle * radians(o.at);
    out.curve = Curve::circle({0, 0}, o.circle);
    out.place.s = o.side_right ? out.curve.length() - s : s;
    if (!o.has_anchor)
      out.place.anchor = RunAnchor::Middle;
  } else {
    Result<Curve> curve = parse_curve(o.guide);
    if (!curve)
      return curve.error();
    out.curve = std::move(*curve);
    const Result<double> s = start_on(out.curve, o);
    if (!s)
      return s.error();
    out.place.s = *s;
  }
  if (o.side_right)
    out.curve = out.curve.reversed();
  return out;
}

Result<int> run_seat(const SeatOptions& o, CommandContext& context) {
  if ((o.has_gap || o.fill) && o.spacing != SpacingMode::EvenGaps)
    return misuse("goes with --spacing even", o.fill ? "--fill" : "--gap");
  if (o.has_gap && o.fill)
    return misuse("give one of --gap and --fill", "--fill");
  if (o.fill && !o.arc.empty())
    return misuse("an arc has no end to fill; give a circle or a guide", "--fill");
  if (!(o.min_gap >= 0))
    return misuse("must be 0 mm or more", "--min-gap");
  const Result<std::shared_ptr<const Face>> face = open_font(o.face);
  if (!face)
    return face.error();
  Letters letters;
  std::uint64_t next_id = 1;
  letters.text = retyped({}, from_utf8(o.text), next_id);
  letters.size = o.size;
  letters.size_by = o.size_by;
  Spacing spacing{o.letter_spacing, o.word_spacing};
  spacing.mode = o.spacing;
  spacing.aim = o.fill ? GapAim::Fill : o.has_gap ? GapAim::Typed : GapAim::Own;
  spacing.gap = o.gap, spacing.least_gap = o.min_gap;
  const auto set = set_text(letters, ligatures_for(spacing), **face);
  if (!set)
    return at_place(set.error(), "--size");
  const auto spaced = space_text(*set, spacing, Alignment::Centre);
  Result<SeatGuide> guide = guide_for(o, *spaced);
  if (!guide)
    return guide.error();
  guide->place.height = o.offset + sit_height(o.sit, (*set)->cap_height);
  guide->place.line_pitch = letters.line_pitch * (*set)->cap_height;
  guide->place.sit = sit_height(o.sit, (*set)->cap_height);
  RunStyle style;
  style.stance = o.stance;
  style.spacing = spacing;
  const Result<SeatedText> placed =
      seat_on_curve(spaced, std::make_shared<const Curve>(std::move(guide->curve)), guide->place, style);
  if (!placed)
    return placed.error();
  const SeatedText& seated = *placed;
  if (!o.output.empty()) {
    const auto finished = finish([&] { return letter_outlines(seated); }, nullptr, Finish{});
    if (!finished)
      return finished.error();
    const CutSheet sheet{seated.ink.grown(1),
                         {{1, o.text, {}, Destination::Knife, *(*finished)->letters().outline, {}}}};
    if (const Result<Done> done = context.storage.write(o.output, write_svg(sheet)); !done)
      return done.error();
  }
  if (o.json || o.output.empty())
    context.out << letters_json(seated) << "\n";
  return 0;
}

} // namespace

void add_seat_command(CLI::App& app, CommandContext& context) {
  auto o = std::make_shared<SeatOptions>();
  CLI::App* c = app.add_subcommand("seat", "Set text on a guide; placed letters as JSON, welded outlines as SVG");
  c->add_option("--text", o->text, "what to letter")->required();
  c->add_option("--face", o->face, "font file")->required();
  c->add_option("--size", o->size, "letter height, mm")->required();
  const std::map<std::string, SizeBy> sizes{
      {"caps", SizeBy::Capitals}, {"x", SizeBy::XHeight}, {"full", SizeBy::Full}, {"em", SizeBy::Em}};
  c->add_option("--size-by", o->size_by, "what the size measures: caps, x, full, em")
      ->transform(CLI::CheckedTransformer(sizes));
  c->add_option("--guide", o->guide, "path data, mm");
  CLI::Option* start = c->add_option("--start", o->start, "place of the anchor along the guide: MM or P%");
  const std::map<std::string, RunAnchor> anchors{
      {"start", RunAnchor::Start}, {"middle", RunAnchor::Middle}, {"end", RunAnchor::End}};
  CLI::Option* anchor = c->add_option("--anchor", o->anchor, "start, middle or end of the run")
                            ->transform(CLI::CheckedTransformer(anchors));
  const std::map<std::string, bool> sides{{"left", false}, {"right", true}};
  c->add_option("--side", o->side_right, "side of the tops: left or right of the guide's direction")
      ->transform(CLI::CheckedTransformer(sides));
  const std::map<std::string, SitBy> sits{{"base", SitBy::Base}, {"middle", SitBy::Middle}, {"caps", SitBy::Caps}};
  c->add_option("--sit", o->sit, "line of the letters on the guide: base, middle, caps")
      ->transform(CLI::CheckedTransformer(sits));
  c->add_option("--offset", o->offset, "mm towards the tops");
  c->add_option("--letter-spacing", o->letter_spacing, "mm between letters");
  c->add_option("--word-spacing", o->word_spacing, "mm added to spaces");
  c->add_option("--min-gap", o->min_gap, "mm that letters keep apart, with --spacing even or joined");
  CLI::Option* gap = c->add_option("--gap", o->gap, "mm: one optical gap for all letters, with --spacing even");
  c->add_flag("--fill", o->fill, "even gaps as wide as fills the guide");
  const std::map<std::string, Stance> stances{
      {"turn", Stance::Turn}, {"stand", Stance::Stand}, {"lean", Stance::Lean}, {"flow", Stance::Flow}};
  c->add_option("--stance", o->stance, "how the letters stand: turn, stand, lean, flow")
      ->transform(CLI::CheckedTransformer(stances));
  const std::map<std::string, SpacingMode> modes{
      {"set", SpacingMode::AsSet}, {"even", SpacingMode::EvenGaps}, {"joined", SpacingMode::KeepJoined}};
  c->add_option("--spacing", o->spacing, "set as the face has it, even gaps on the bend, or joined as when straight")
      ->transform(CLI::CheckedTransformer(modes));
  c->add_option("--arc", o->arc, "radius=MM, rise=MM or sweep=DEG instead of a guide");
  CLI::Option* circle = c->add_option("--circle", o->circle, "radius in mm of a circle about 0,0 instead of a guide");
  c->add_option("--at", o->at, "angle on the circle, degrees, 0 = top, clockwise")->needs(circle);
  c->add_option("-o", o->output, "SVG file for the welded outlines");
  c->add_flag("--json", o->json, "placed letters on stdout (the default without -o)");
  c->callback([=, &context] {
    o->has_circle = circle->count() > 0, o->has_start = start->count() > 0, o->has_anchor = anchor->count() > 0;
    o->has_gap = gap->count() > 0;
    context.run = [=, &context] { return run_seat(*o, context); };
  });
}

} // namespace frelm
