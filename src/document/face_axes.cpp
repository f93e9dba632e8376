// The run's length grows with the axis in small steps: advances are whole font units, places on an axis multiples of
// 1/16384 of it. The axis is halved until it stands on the last step that is not too long; secants of letter spacing or
// size close what is left.
#include "document/face_axes.h"

namespace frelm {
namespace {

constexpr double within = 0.005;        // mm
constexpr double little_spacing = 0.08; // cap heights a gap, before letters look bunched or apart
constexpr int halvings = 24;
constexpr int most_secants = 24;
constexpr double least_change = 1e-3; // of the length: less than that and the axis does nothing

struct Measured {
  double length = 0, cap = 0;
  std::size_t gaps = 1;
};

Result<Measured> run_of(const Document& document, PieceId id, const DocumentEvaluator& evaluator,
                        const std::stop_token& stop) {
  const Result<PieceResult> r = evaluator.piece(document, id, Depth::Seat, stop);
  if (!r)
    return r.error();
  if (stop.stop_requested())
    return Error{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), {}};
  if (r->seated == nullptr || r->ink.empty())
    return bad_input(FRELM_WORDS("core", "there is nothing to measure yet; type some letters first"));
  const BendKind laid = document.find(id)->lettering()->recipe.bend.laid_by();
  const bool along = laid == BendKind::Guide || laid == BendKind::Arc;
  return Measured{along ? r->seated->used_length : r->ink.width(), r->seated->spaced->set->cap_height,
                  std::max<std::size_t>(r->seated->letters.size(), 2) - 1};
}

// The document in which change(x) makes the length right; nothing where no x near 0 does.
template <class Change>
Result<std::optional<Document>> by_secants(const Document& document, PieceId id, double length, double was, double step,
                                           const DocumentEvaluator& evaluator, const std::stop_token& stop,
                                           const Change& change) {
  double before = 0, off_before = was - length, now = step;
  for (int i = 0; i < most_secants; ++i) {
    Document tried = edit_piece(document, id, [&](Piece& p) { change(p.lettering()->recipe, now); });
    const Result<Measured> run = run_of(tried, id, evaluator, stop);
    if (!run)
      return run.error();
    const double off = run->length - length;
    if (std::abs(off) <= within)
      return std::optional<Document>(std::move(tried));
    const double next = now - off * (now - before) / (off - off_before);
    if (!std::isfinite(next) || std::abs(next) > 8 * std::abs(step))
      break;
    before = now, off_before = off, now = next;
  }
  return std::optional<Document>();
}

} // namespace

std::vector<FaceAxis> axes_of(const Letters& letters, const FaceLibrary& faces) {
  const auto face = faces.face({letters.face.family, letters.face.style});
  if (!face)
    return {};
  return (*face)->axes();
}

std::optional<FaceAxis> axis_of(const Letters& letters, const FaceLibrary& faces, const std::string& tag) {
  for (FaceAxis& axis : axes_of(letters, faces))
    if (axis.tag == tag)
      return std::move(axis);
  return std::nullopt;
}

double axis_value(const Letters& letters, const FaceAxis& axis) {
  for (const AxisValue& v : letters.face.axes)
    if (v.tag == axis.tag)
      return std::clamp(v.value, axis.low, axis.high);
  return axis.usual;
}

void set_axis(Letters& letters, const FaceAxis& axis, double value) {
  std::vector<AxisValue>& axes = letters.face.axes;
  std::erase_if(axes, [&](const AxisValue& v) { return v.tag == axis.tag; });
  value = std::clamp(value, axis.low, axis.high);
  if (value == axis.usual)
    return;
  const auto at = std::find_if(axes.begin(), axes.end(), [&](const AxisValue& v) { return v.tag > axis.tag; });
  axes.insert(at, {axis.tag, value});
}

Result<WidthFit> fit_by_width(const Document& document, PieceId id, double length, const DocumentEvaluator& evaluator,
                              std::stop_token stop) {
  const Piece* piece = document.find(id);
  const Lettering* lettering = piece != nullptr ? piece->lettering() : nullptr;
  const Letters* letters = lettering != nullptr ? lettering->recipe.letters() : nullptr;
  const std::optional<FaceAxis> axis =
      letters != nullptr ? axis_of(*letters, evaluator.faces(), width_axis) : std::nullopt;
  if (!axis)
    return bad_input(FRELM_WORDS("core", "this face has no width to change; choose one that has, or change the size"));
  if (piece->locked)
    return bad_input(FRELM_WORDS("core", "the piece is locked; unlock it first"));
  if (!(length > 0) || !std::isfinite(length))
    return bad_input(FRELM_WORDS("core", "the length must be more than 0 mm"));
  const Bend& bend = lettering->recipe.bend;
  if (bend.laid_by() == BendKind::Rails && bend.placed_by_guides())
    return bad_input(FRELM_WORDS("core", "the letters fill what they are bent into, whatever their width"));
  const auto at = [&](double width) {
    return edit_piece(document, id, [&](Piece& p) { set_axis(*p.lettering()->recipe.letters(), *axis, width); });
  };
  const auto run_at = [&](double width) { return run_of(at(width), id, evaluator, stop); };
  const Result<Measured> narrowest = run_at(axis->low), widest = run_at(axis->high);
  if (!narrowest)
    return narrowest.error();
  if (!widest)
    return widest.error();
  if (std::abs(widest->length - narrowest->length) < least_change * length)
    return bad_input(FRELM_WORDS(
        "core", "the run is as long whatever the face's width: its letters are spread out; set their spacing "
                "otherwise first"));
  double low = axis->low, high = axis->high;
  Measured run = *narrowest;
  if (narrowest->length > length) {
    high = low;
  } else if (widest->length <= length) {
    low = high;
    run = *widest;
  }
  for (int i = 0; i < halvings && low < high && std::abs(run.length - length) > within; ++i) {
    const double middle = (low + high) / 2;
    const Result<Measured> now = run_at(middle);
    if (!now)
      return now.error();
    if (now->length <= length)
      low = middle, run = *now;
    else
      high = middle;
  }
  WidthFit out{at(low), low, low == axis->low || low == axis->high, RestBy::Nothing, length - run.length};
  if (std::abs(out.rest_mm) <= within)
    return out;
  const double each = out.rest_mm / static_cast<double>(run.gaps);
  if (std::abs(each) <= little_spacing * run.cap) {
    auto spaced = by_secants(out.document, id, length, run.length, each, evaluator, stop,
                             [](Recipe& r, double by) { r.spacing.letter += by; });
    if (!spaced)
      return spaced.error();
    if (*spaced) {
      out.document = std::move(**spaced), out.rest = RestBy::Spacing;
      return out;
    }
  }
  auto sized = by_secants(out.document, id, length, run.length, std::log(length / run.length), evaluator, stop,
                          [](Recipe& r, double by) {
                            r.bend.guide.fit_height = false;
                            r.letters()->size *= std::exp(by);
                            r.spacing.letter *= std::exp(by), r.spacing.word *= std::exp(by);
                            r.spacing.gap *= std::exp(by);
                          });
  if (!sized)
    return sized.error();
  if (!*sized)
    return bad_input(
        FRELM_WORDS("core", "letters here can't be made exactly so long; change the guide or the size a little"));
  out.document = std::move(**sized), out.rest = RestBy::Size;
  return out;
}

} // namespace frelm
