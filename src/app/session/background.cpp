#include "app/session/background.h"

namespace frelm {

Background::Background(const DocumentEvaluator& evaluator, std::function<void(WorkResults)> deliver,
                       std::function<void(std::uint64_t, double)> progress)
    : evaluator_(evaluator), deliver_(std::move(deliver)), progress_(std::move(progress)), worker_(5) {}

void Background::request(Document document, std::uint64_t revision, WorkDepth depth, PieceId gaps_of) {
  worker_.request(
      [this, request = Request{std::move(document), revision, depth, gaps_of}](const std::stop_token& stop) {
        WorkResults results;
        try {
          results = work(request, stop);
        } catch (const std::exception& e) { // told like a finding; the pieces are not known
          results.revision = request.revision;
          results.depth = request.depth;
          results.check.findings = {{Weight::MustFix, FindingKind::CheckFailed, as_it_is(e.what()), 0, {}, {}}};
        }
        if (!stop.stop_requested())
          deliver_(std::move(results));
      });
}

WorkResults Background::work(const Request& request, const std::stop_token& stop) const {
  WorkResults out;
  out.revision = request.revision;
  out.depth = request.depth;
  CutSheet sheet;
  sheet.frame = {0, 0, request.document.sheet.width, request.document.sheet.height};
  for (const auto& piece : request.document.pieces) {
    if (stop.stop_requested())
      return out;
    const bool everything = request.depth == WorkDepth::Everything;
    if (!everything && piece->id != request.gaps_of)
      continue;
    double told = 0;
    const Effort effort(stop, [&](double share) {
      if (share >= told + 0.02)
        progress_(request.revision, told = share);
    });
    const Result<PieceResult> result =
        evaluator_.piece(request.document, piece->id, everything ? Depth::Finish : Depth::Seat, effort);
    if (!result)
      continue;
    WorkResults::PieceWork& work = out.pieces[piece->id];
    work.seated = result->seated;
    work.outline = result->outline;
    work.finished = result->finished;
    if (everything)
      add_cut_layers(sheet, *piece, *result);
    if (const Finish* finish = piece->finish())
      work.finish = *finish;
    if (piece->id == request.gaps_of && result->seated != nullptr)
      work.gaps = evaluator_.gaps(result->seated, stop);
  }
  if (request.depth == WorkDepth::Everything) {
    out.check = frelm::check(request.document, evaluator_, stop);
    turn_mirrored(sheet, request.document.materials);
    if (!stop.stop_requested())
      out.materials = used_materials(sheet, request.document.materials);
  }
  return out;
}

} // namespace frelm
