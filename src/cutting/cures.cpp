// Lengths are no simple function of what a cure changes (corners, further lines, ink that reaches past the ends), so it
// is carried out in rounds: change by the ratio or the rest, seat again, look whether the finding is gone. What can't
// finish changes nothing.
#include "cutting/cures.h"

#include "cutting/order_check.h"
#include "cutting/panels.h"
#include "geom/said.h"

#include "document/arrange.h"
#include "document/clean_up.h"
#include "document/face_axes.h"
#include "document/outline_edits.h"
#include "lettering/finish_edit.h"
#include "lettering/gaps.h"

namespace frelm {
namespace {

constexpr double tightest = 0.08; // cap heights a gap may lose before letters look bunched
constexpr double shrink_step = 0.97;
constexpr int most_steps = 60;
constexpr double settled = 1e-6; // mm of overflow

std::size_t gap_count(const SeatedText& text) {
  return text.letters.size() > 1 ? text.letters.size() - 1 : 1;
}

Error not_cured(const std::stop_token& stop, Words why) {
  return stop.stop_requested() ? Error{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), {}} : bad_input(why);
}

Result<Document> shrink(Document document, PieceId id, const DocumentEvaluator& evaluator,
                        const std::stop_token& stop) {
  // By the ratio of lengths first, then in small steps: corners and further lines make the length no simple function.
  for (int i = 0; i < most_steps && !stop.stop_requested(); ++i) {
    const Result<PieceResult> r = evaluator.piece(document, id, Depth::Seat, stop);
    if (!r)
      return r.error();
    if (r->seated == nullptr)
      return bad_input(FRELM_WORDS("core", "there are no letters to shrink"));
    const SeatedText& text = *r->seated;
    const bool straddles =
        std::any_of(text.letters.begin(), text.letters.end(), [](const PlacedLetter& l) { return l.straddles; });
    const bool collides = !find_collisions(text, stop).empty();
    if (text.overflow <= 0 && !straddles && !collides && !stop.stop_requested())
      return document;
    double k = shrink_step;
    if (i == 0 && text.overflow > 0 && text.used_length > 0)
      k = std::min(k, (text.used_length - text.overflow) / text.used_length);
    document = edit_piece(std::move(document), id, [&](Piece& p) {
      Recipe& recipe = p.lettering()->recipe;
      recipe.bend.guide.fit_height = false;
      if (Letters* l = recipe.letters())
        l->size *= std::max(k, 0.05);
      recipe.spacing.letter *= std::max(k, 0.05);
      recipe.spacing.word *= std::max(k, 0.05);
      recipe.spacing.gap *= std::max(k, 0.05);
    });
  }
  return not_cured(
      stop, FRELM_WORDS("core",
                        "the letters would have to be very small before they fit; nothing was changed, choose another "
                        "guide or fewer letters"));
}

Result<Document> narrow(const Document& document, PieceId id, const DocumentEvaluator& evaluator,
                        const std::stop_token& stop) {
  const Result<PieceResult> r = evaluator.piece(document, id, Depth::Seat, stop);
  if (!r)
    return r.error();
  if (r->seated == nullptr || r->seated->overflow <= 0)
    return document;
  Result<WidthFit> fit =
      fit_by_width(document, id, r->seated->used_length - r->seated->overflow - settled, evaluator, stop);
  if (!fit)
    return fit.error();
  return std::move(fit->document);
}

Result<Document> tighten(Document document, PieceId id, const DocumentEvaluator& evaluator,
                         const std::stop_token& stop) {
  // In rounds: a run centred by its ink reaches past its two ends unevenly.
  for (int i = 0; i < most_steps && !stop.stop_requested(); ++i) {
    const Result<PieceResult> r = evaluator.piece(document, id, Depth::Seat, stop);
    if (!r)
      return r.error();
    if (r->seated == nullptr || r->seated->overflow <= settled)
      return document;
    const double less = (r->seated->overflow * 1.0001 + settled) / static_cast<double>(gap_count(*r->seated));
    document = edit_piece(std::move(document), id, [&](Piece& p) { p.lettering()->recipe.spacing.letter -= less; });
  }
  return not_cured(
      stop, FRELM_WORDS("core", "tightening alone does not make the run fit; nothing was changed, shrink the letters"));
}

Result<Document> lengthen(const Document& document, PieceId id, const DocumentEvaluator& evaluator,
                          const std::stop_token& stop) {
  Document now = document;
  for (int i = 0; i < most_steps && !stop.stop_requested(); ++i) {
    const Piece* piece = now.find(id);
    const Result<PieceResult> r = evaluator.piece(now, id, Depth::Seat, stop);
    if (!r)
      return r.error();
    if (r->seated == nullptr || r->seated->overflow <= 0)
      return now;
    const double length = r->seated->guide_length, by = r->seated->overflow * 1.001 + 0.01;
    const Lettering& l = *piece->lettering();
    const PieceId guide = l.recipe.bend.guide.guide;
    const Document before = now;
    if (const Piece* g = now.find(guide); g != nullptr && g->guide() != nullptr) {
      for (const PieceId carrier : carriers_of(now, guide))
        if (const Piece* c = now.find(carrier); c != nullptr && !c->locked) {
          if (c->guide() != nullptr)
            now = edit_piece(std::move(now), carrier,
                             [&](Piece& p) { p.guide()->shape = lengthened(p.guide()->shape, length, by); });
          else if (c->outline() != nullptr)
            now = scale_piece(std::move(now), carrier, c->outline()->outline->bounds().centre(), (length + by) / length,
                              GuideScaling::Along);
        }
    } else if (l.recipe.bend.guide.own) {
      now = edit_piece(std::move(now), id, [&](Piece& p) {
        auto& own = p.lettering()->recipe.bend.guide.own;
        own = lengthened(*own, length, by);
      });
    }
    if (now == before)
      return bad_input(FRELM_WORDS(
          "core", "the guide can't be lengthened: it is locked, or follows something else; nothing was changed"));
  }
  return not_cured(
      stop,
      FRELM_WORDS("core", "lengthening the guide does not make the run fit; nothing was changed, shrink the letters"));
}

} // namespace

std::vector<Cure> length_cures(const Lettering& lettering, const SeatedText& text, const FaceLibrary& faces) {
  std::vector<Cure> out{Cure::ShrinkLetters};
  if (const Letters* letters = lettering.recipe.letters();
      letters != nullptr && lettering.recipe.spacing.mode != SpacingMode::Spread) // that is as long at any width
    if (const auto width = axis_of(*letters, faces, width_axis); width && axis_value(*letters, *width) > width->low)
      out.insert(out.begin(), Cure::NarrowFace);
  const bool little = text.overflow / static_cast<double>(gap_count(text)) <= tightest * text.spaced->set->cap_height;
  if (little && lettering.recipe.spacing.mode == SpacingMode::AsSet)
    out.push_back(Cure::Tighten);
  if (lettering.recipe.bend.kind == BendKind::Guide) {
    out.push_back(Cure::LengthenGuide);
    if (little && lettering.recipe.spacing.mode == SpacingMode::AsSet)
      out.push_back(Cure::SpreadOver);
  }
  return out;
}

// Each of a piece's layers gets a material that none of them has; a piece without any gets another one.
Document colours_apart(const Document& document, PieceId id) {
  std::vector<Colour> offered;
  for (const std::vector<Material>& list : {document.materials, shipped_materials()})
    for (const Material& m : list)
      offered.push_back(m.colour);
  return edit_piece(document, id, [&](Piece& p) {
    std::vector<Colour> used{p.colour};
    const auto fresh = [&](Colour was) { return unlike(used, offered).value_or(was); };
    bool layers = false;
    if (p.finish() != nullptr)
      for_each_layer(*p.finish(), [&](LayerRole, int, Colour& c, const Destination&) {
        layers = true;
        if (std::any_of(used.begin(), used.end(), [&](Colour u) { return u == c; }))
          c = fresh(c);
        used.push_back(c);
      });
    if (!layers)
      p.colour = fresh(p.colour);
  });
}

namespace {

// A drawn outline made anew by what `change` makes of it.
Result<Document> redrawn(const Document& document, const Piece& piece, const std::function<Outline(Outline)>& change) {
  if (piece.outline() == nullptr)
    return bad_input(FRELM_WORDS("core", "the piece is no outline any more"));
  if (piece.locked)
    return bad_input(FRELM_WORDS("core", "the piece is locked; unlock it first"));
  return edit_nodes(document, piece.id, change);
}

Result<Document> with_step(const Document& document, const Piece& piece, const FinishAction& what,
                           const DocumentEvaluator& evaluator) {
  if (piece.finish() == nullptr || piece.finish()->steps.size() >= most_finish_steps)
    return bad_input(FRELM_WORDS("core", "the piece can have no more steps"));
  const double height = evaluator.seat_now(document, piece.id).value_or({}).ink.height();
  return edit_piece(document, piece.id, [&](Piece& p) { add_fitting_step(*p.finish(), what, height, p.colour); });
}

// Every material that what is cut of it is too large for, where panels help.
Result<Document> in_panels(Document document, const DocumentEvaluator& evaluator, const std::stop_token& stop) {
  const Result<CutSheet> sheet = cut_sheet(document, evaluator, stop);
  if (!sheet)
    return sheet.error();
  bool any = false;
  for (const MaterialUse& use : used_materials(*sheet, document.materials))
    for (Material& m : document.materials)
      if (m.colour == use.colour && m.panel_overlap == 0 && panels_help(use.box, m))
        m.panel_overlap = usual_panel_overlap, any = true;
  if (!any)
    return bad_input(FRELM_WORDS("core", "panels don't help: the material is too narrow for them, or all of it fits"));
  return document;
}

// What stands there twice, of all outlines of the piece's colour.
Result<Document> without_doubles_of(const Document& document, const Piece& piece) {
  std::vector<PieceId> ids;
  for (const auto& p : document.pieces)
    if (p->outline() != nullptr && p->colour == piece.colour && p->destination == piece.destination)
      ids.push_back(p->id);
  Document out = doubles_dropped(document, ids);
  if (out == document)
    return bad_input(
        FRELM_WORDS("core", "nothing could be dropped: the piece is locked, hidden, or came from letters"));
  return out;
}

} // namespace

GuideShape lengthened(const GuideShape& shape, double length, double by) {
  GuideShape out = shape;
  const double k = (length + by) / length;
  if (auto* line = std::get_if<LineGuide>(&out)) {
    const Vec more = (line->to - line->from) * ((k - 1) / 2);
    line->from = line->from - more, line->to += more;
    return out;
  }
  if (auto* arc = std::get_if<ArcGuide>(&out); arc != nullptr && std::abs(arc->sweep * k) < 350) {
    arc->start -= arc->sweep * (k - 1) / 2;
    arc->sweep *= k;
    return out;
  }
  if (auto* spiral = std::get_if<SpiralGuide>(&out)) {
    // The outermost winding is the longest: so many turns more of about its length.
    spiral->turns += by / (2 * pi * std::max(spiral->outer(), 1.0)) * 1.02 + 0.001;
    return out;
  }
  if (auto* ribbon = std::get_if<RibbonGuide>(&out)) // as wide as it was
    if (const auto longer = along_line(*ribbon, lengthened(ribbon_line(*ribbon), length, by)); longer)
      return *longer;
  return transformed(shape, Similarity::scaling_about(shape_centre(shape), k));
}

Result<Document> cured(const Document& document, PieceId id, Cure cure, const DocumentEvaluator& evaluator,
                       std::stop_token stop) {
  if (cure == Cure::CutInPanels)
    return in_panels(document, evaluator, stop);
  const Piece* piece = document.find(id);
  if (piece == nullptr)
    return bad_input(FRELM_WORDS("core", "the piece is no longer there"));
  if (piece->lettering() == nullptr &&
      (cure == Cure::NarrowFace || cure == Cure::ShrinkLetters || cure == Cure::Tighten ||
       cure == Cure::LengthenGuide || cure == Cure::KeepJoined || cure == Cure::EvenGaps || cure == Cure::SpreadOver))
    return bad_input(FRELM_WORDS("core", "the piece is no lettering any more"));
  switch (cure) {
  case Cure::SwitchWeldOn:
    return edit_piece(document, id, [](Piece& p) {
      if (Finish* f = p.finish())
        set_weld(*f, true);
    });
  case Cure::SendToGuide:
    return edit_piece(document, id, [](Piece& p) { p.destination = Destination::Guide; });
  case Cure::MoveOntoSheet: {
    const Result<PieceResult> r = evaluator.piece(document, id, Depth::Finish, stop);
    if (!r)
      return r.error();
    Box drawn = r->ink;
    if (r->finished != nullptr)
      drawn.add(r->finished->bounds());
    const auto shift = [](double low, double high, double size) {
      return high - low > size ? (size - low - high) / 2 : low < 0 ? -low : high > size ? size - high : 0;
    };
    Document moved = move_pieces(
        document, {id},
        {shift(drawn.x0, drawn.x1, document.sheet.width), shift(drawn.y0, drawn.y1, document.sheet.height)});
    if (moved == document)
      return bad_input(FRELM_WORDS("core", "the piece can't be moved: it is locked, or follows something that is"));
    return moved;
  }
  case Cure::NarrowFace:
    return narrow(document, id, evaluator, stop);
  case Cure::ShrinkLetters:
    return shrink(document, id, evaluator, stop);
  case Cure::Tighten:
    return tighten(document, id, evaluator, stop);
  case Cure::LengthenGuide:
    return lengthen(document, id, evaluator, stop);
  case Cure::KeepJoined:
  case Cure::EvenGaps:
    return edit_piece(document, id, [&](Piece& p) {
      p.lettering()->recipe.spacing.mode = cure == Cure::KeepJoined ? SpacingMode::KeepJoined : SpacingMode::EvenGaps;
    });
  case Cure::ColourApart:
    return colours_apart(document, id);
  case Cure::TidyNodes:
    return redrawn(document, *piece, tidied);
  case Cure::TurnHoles:
    return redrawn(document, *piece, [](Outline o) {
      for (const std::size_t k : drawn_faults(o).filled)
        o.contours[k] = o.contours[k].reversed();
      return o;
    });
  case Cure::DropDoubles:
    return without_doubles_of(document, *piece);
  case Cure::TieParts:
    return with_step(document, *piece, TieStep{}, evaluator);
  case Cure::FewerNodes:
    return with_step(document, *piece, thin_step_for(document.materials, piece->colour), evaluator);
  case Cure::CutInPanels: // no piece's
    break;
  case Cure::SpreadOver:
    return edit_piece(document, id, [](Piece& p) {
      p.lettering()->recipe.spacing.mode = SpacingMode::Spread;
      p.lettering()->recipe.spacing.over = SpreadOver::Guide;
    });
  }
  return document;
}

Words cure_name(Cure cure) {
  switch (cure) {
  case Cure::SwitchWeldOn:
    return FRELM_WORDS("core", "Weld");
  case Cure::SendToGuide:
    return FRELM_WORDS("core", "Make it a guide");
  case Cure::MoveOntoSheet:
    return FRELM_WORDS("core", "Move onto the sheet");
  case Cure::NarrowFace:
    return FRELM_WORDS("core", "Narrow the face");
  case Cure::ShrinkLetters:
    return FRELM_WORDS("core", "Shrink letters");
  case Cure::Tighten:
    return FRELM_WORDS("core", "Tighten");
  case Cure::KeepJoined:
    return FRELM_WORDS("core", "Keep joined");
  case Cure::EvenGaps:
    return FRELM_WORDS("core", "Even gaps");
  case Cure::LengthenGuide:
    return FRELM_WORDS("core", "Lengthen guide");
  case Cure::SpreadOver:
    return FRELM_WORDS("core", "Spread over it");
  case Cure::ColourApart:
    return FRELM_WORDS("core", "Colours apart");
  case Cure::TidyNodes:
    return FRELM_WORDS("core", "Tidy the nodes");
  case Cure::CutInPanels:
    return FRELM_WORDS("core", "Cut it in panels");
  case Cure::TurnHoles:
    return FRELM_WORDS("core", "Turn them into holes");
  case Cure::DropDoubles:
    return FRELM_WORDS("core", "Drop the doubles");
  case Cure::TieParts:
    return FRELM_WORDS("core", "Tie the parts");
  case Cure::FewerNodes:
    return FRELM_WORDS("core", "Fewer nodes");
  }
  return {};
}

const char* cure_id(Cure cure) {
  static constexpr const char* ids[] = {
      "switch-weld-on", "send-to-guide", "move-onto-sheet", "narrow-face", "shrink-letters", "tighten",
      "lengthen-guide", "spread-over",   "keep-joined",     "even-gaps",   "colours-apart",  "tidy-nodes",
      "turn-holes",     "drop-doubles",  "tie-parts",       "fewer-nodes", "cut-in-panels"};
  static_assert(std::size(ids) == static_cast<std::size_t>(Cure::CutInPanels) + 1);
  return ids[static_cast<std::size_t>(cure)];
}

} // namespace frelm
