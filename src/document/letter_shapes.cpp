#include "document/letter_shapes.h"

#include "document/edits.h"

namespace frelm {

std::vector<LetterShape> shapes_of_letter(const Letters& letters, std::uint64_t id, const Face& face) {
  const auto it =
      std::find_if(letters.text.begin(), letters.text.end(), [&](const TypedChar& c) { return c.id == id; });
  if (id == 0 || it == letters.text.end())
    return {};
  const char32_t c =
      cased(plain_text(letters.text), letters.capitals)[static_cast<std::size_t>(it - letters.text.begin())];
  const LetterAlternate* chosen = nullptr;
  for (const LetterAlternate& a : letters.alternates)
    if (a.id == id)
      chosen = &a;
  std::vector<LetterShape> out;
  const std::vector<ShapedCluster> usual = face.shape(std::u32string(1, c), {});
  if (usual.empty() || usual.front().glyphs.empty())
    return {};
  out.push_back({std::nullopt, "Usual", face.outline(usual.front().glyphs.front().glyph), chosen == nullptr});
  const std::vector<FaceFeature> features = face.features();
  for (const GlyphAlternate& a : face.alternates(c)) {
    const FeatureSetting by{a.tag, a.value};
    const auto named =
        std::find_if(features.begin(), features.end(), [&](const FaceFeature& f) { return f.tag == a.tag; });
    out.push_back({by, named != features.end() ? named->name : a.tag, face.outline(a.glyph),
                   chosen != nullptr && chosen->by == by});
  }
  return out;
}

Document with_shape(const Document& document, PieceId id, std::uint64_t letter,
                    const std::optional<FeatureSetting>& by) {
  return edit_piece(document, id, [&](Piece& p) {
    Letters* l = p.lettering() != nullptr ? p.lettering()->recipe.letters() : nullptr;
    if (l == nullptr)
      return;
    std::erase_if(l->alternates, [&](const LetterAlternate& a) { return a.id == letter; });
    if (by)
      l->alternates.push_back({letter, *by});
    std::sort(l->alternates.begin(), l->alternates.end(),
              [](const LetterAlternate& a, const LetterAlternate& b) { return a.id < b.id; });
  });
}

std::vector<TextFeature> features_of_text(const Letters& letters, const Face& face) {
  std::vector<TextFeature> out;
  for (const FaceFeature& f : face.features()) {
    bool on = f.normally_on;
    for (const FeatureSetting& s : letters.features)
      if (s.tag == f.tag)
        on = s.value != 0;
    out.push_back({f, on});
  }
  return out;
}

Document with_feature(const Document& document, PieceId id, const FaceFeature& feature, bool on) {
  return edit_piece(document, id, [&](Piece& p) {
    Letters* l = p.lettering() != nullptr ? p.lettering()->recipe.letters() : nullptr;
    if (l == nullptr)
      return;
    std::erase_if(l->features, [&](const FeatureSetting& s) { return s.tag == feature.tag; });
    if (on != feature.normally_on)
      l->features.push_back({feature.tag, on ? 1U : 0U});
    std::sort(l->features.begin(), l->features.end(),
              [](const FeatureSetting& a, const FeatureSetting& b) { return a.tag < b.tag; });
  });
}

} // namespace frelm
