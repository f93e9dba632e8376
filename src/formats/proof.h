// The customer's sheet: the work on its ground with its size as dimension lines, what it is made of, and the words the
// user typed; no others. Letters are outlines, so it looks the same everywhere. Written as PDF or PNG.
#pragma once

#include "document/document.h"
#include "document/evaluate.h"
#include "document/marks.h"
#include "formats/page.h"
#include "type/face_library.h"

namespace frelm {

enum class Paper { A4, Letter }; // ISO 216: 210 x 297 mm; ANSI/ASME Y14.1: 8.5 x 11 in

struct ProofForm {
  std::string title, addressee, date, remarks, sign; // UTF-8; empty ones leave no trace
  Paper paper = Paper::A4;
  bool sizes = true, materials = true;
  std::optional<Colour> ground = std::nullopt; // behind the work; none: the paper
  bool operator==(const ProofForm&) const = default;
};

// work: as it is seen. The paper lies as the work does, wide or tall; the work fills what the words leave, never larger
// than twice its size. Remarks wrap, and end with "…" where there is no more room. Errors: nothing to show.
Result<DrawnPage> proof_page(const CutSheet& work, const std::vector<Material>& materials, Unit unit,
                             const ProofForm& form, const FaceLibrary& faces, const std::vector<MarkDrawn>& marks = {});
Result<DrawnPage> proof_page(const Document& document, const DocumentEvaluator& evaluator, const ProofForm& form,
                             const std::stop_token& stop = {});

inline constexpr int proof_picture_width = 2480; // px: 300 an inch across A4
// PDF or PNG by the path's suffix. Errors: another suffix, nothing to show, what can't be evaluated.
Result<std::string> write_proof(const Document& document, const DocumentEvaluator& evaluator, const ProofForm& form,
                                const std::string& path, const std::stop_token& stop = {},
                                int picture_width = proof_picture_width);

} // namespace frelm
