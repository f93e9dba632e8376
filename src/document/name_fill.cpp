// The text is filled in, seated, and measured against the room along its line; size and gaps follow until it fits.
#include "document/name_fill.h"

#include "document/copies.h"
#include "document/edits.h"
#include "geom/short_number.h"
#include "type/face.h"

#include <algorithm>

namespace frelm {
namespace {

constexpr double fits_within = 0.001;   // mm
constexpr int most_tries = 8;           // each of a seating
constexpr double least_of_size = 0.02;  // that letters shrink to
constexpr double most_tightened = 0.06; // of the cap height, taken off every gap

std::u32string trimmed(std::u32string text) {
  const auto blank = [](char32_t c) { return c == U' ' || c == U'\t' || c == U'\u00a0' || c == U'\n' || c == U'\r'; };
  while (!text.empty() && blank(text.back()))
    text.pop_back();
  const auto first = std::find_if_not(text.begin(), text.end(), blank);
  text.erase(text.begin(), first);
  return text;
}

const std::string* cell(const NameList& list, std::size_t row, const std::string& column) {
  for (std::size_t i = 0; i < list.columns.size(); ++i)
    if (column_key(list.columns[i]) == column)
      return &list.rows[row][i];
  return nullptr;
}

// With doubled braces as one; nothing: no column fills one of the places.
Result<std::u32string> filled(const std::u32string& text, const NameList& list, std::size_t row) {
  std::u32string out;
  std::size_t at = 0;
  const auto plain = [&](std::size_t to) {
    for (; at < to; ++at) {
      out += text[at];
      if (at + 1 < to && text[at] == text[at + 1] && (text[at] == U'{' || text[at] == U'}'))
        ++at;
    }
  };
  for (const NamePlace& p : name_places(text)) {
    plain(p.first);
    at = p.first + p.count;
    const std::string* value = cell(list, row, p.column);
    if (value == nullptr && p.column != "number")
      return bad_input(say(FRELM_WORDS("core", "no column of the list is called '%1'"), p.column),
                       say(FRELM_WORDS("core", "row %1"), std::to_string(row + 1)));
    std::u32string with = value != nullptr ? trimmed(from_utf8(*value)) : from_utf8(std::to_string(row + 1));
    if (with.empty())
      with = p.otherwise;
    out += p.capitals ? cased(with, Capitals::Capitals) : with;
  }
  plain(text.size());
  return out;
}

// The piece beside the sheet that this text in the place of `piece` has its changes from; where its line was broken to
// make it fit it is the same text. Null: none.
const Piece* made_by_hand(const Document& document, const NameList& list, PieceId piece, const std::u32string& text) {
  const auto same = [](const TypedChar& a, char32_t b) { return a.c == b || (a.c == U'\n' && b == U' '); };
  const auto of = [&](PieceId by) {
    return std::find(list.by_hand.begin(), list.by_hand.end(), NameByHand{piece, by});
  };
  const Piece* out = nullptr;
  for (const auto& p : document.pieces) { // pieces first: hardly any has this text
    const Letters* letters = p->lettering() != nullptr ? p->lettering()->recipe.letters() : nullptr;
    if (letters != nullptr && std::equal(letters->text.begin(), letters->text.end(), text.begin(), text.end(), same) &&
        of(p->id) != list.by_hand.end() && (out == nullptr || of(p->id) > of(out->id)))
      out = p.get();
  }
  return out;
}

// A lettering with places, and its text in a row.
struct FilledText {
  std::shared_ptr<const Piece> piece;
  std::u32string text;
};
Result<std::vector<FilledText>> filled_texts(const Document& document, const NameList& list, std::size_t row) {
  std::vector<FilledText> out;
  for (const auto& p : document.pieces) {
    if (p->lettering() == nullptr || !has_places(*p->lettering()))
      continue;
    Result<std::u32string> text = filled(plain_text(p->lettering()->recipe.letters()->text), list, row);
    if (!text)
      return text.error();
    out.push_back({p, std::move(*text)});
  }
  return out;
}

// What hands did to one text, done to the same text with other characters' ids.
void take_over(Recipe& recipe, const Recipe& by) {
  const TypedText &from = by.letters()->text, &to = recipe.letters()->text;
  const auto id_of = [&](std::uint64_t id) -> std::uint64_t {
    for (std::size_t i = 0; i < from.size(); ++i)
      if (from[i].id == id)
        return to[i].id;
    return 0;
  };
  for (LetterAlternate a : by.letters()->alternates)
    if ((a.id = id_of(a.id)) != 0)
      recipe.letters()->alternates.push_back(a);
  for (LetterTweak t : by.tweaks)
    if ((t.id = id_of(t.id)) != 0)
      recipe.tweaks.push_back(t);
  for (PairTweak p : by.pairs)
    if ((p.left = id_of(p.left)) != 0 && (p.right = id_of(p.right)) != 0)
      recipe.pairs.push_back(p);
}

// A lettering of a document, seated again and again with other measures.
class Fitter {
public:
  Fitter(Document& document, PieceId id, const NameRule& rule, const DocumentEvaluator& evaluator,
         const std::stop_token& stop, std::vector<NameFinding>& findings)
      : document_(document), id_(id), rule_(rule), evaluator_(evaluator), stop_(stop), findings_(findings) {}

  Result<Done> run() {
    if (const Result<Done> seated = seat(); !seated)
      return seated.error();
    if (rule_.fit == NameFit::Spread && room() > 0 && recipe().bend.kind != BendKind::Rails) {
      if (too_long() > fits_within)
        if (const Result<Done> shrunk = shrink(); !shrunk)
          return shrunk.error();
      if (const Result<Done> spread = this->spread(); !spread)
        return spread.error();
    } else if (too_long() > fits_within) {
      if (rule_.fit == NameFit::TwoLines)
        if (const Result<Done> parted = part(); !parted)
          return parted.error();
      if (rule_.fit == NameFit::Tighten)
        if (const Result<Done> tight = tighten(); !tight)
          return tight.error();
      if (rule_.fit != NameFit::Keep)
        if (const Result<Done> shrunk = shrink(); !shrunk)
          return shrunk.error();
    }
    if (const double by = too_long(); by > 10 * fits_within)
      findings_.push_back({NameTrouble::TooLong, id_, by});
    if (const double caps = cap_height(); rule_.least_caps > 0 && caps < rule_.least_caps - fits_within)
      findings_.push_back({NameTrouble::LettersLow, id_, caps});
    const auto missing = [](const PlacedLetter& l) { return l.missing; };
    if (std::any_of(now_->letters.begin(), now_->letters.end(), missing))
      findings_.push_back({NameTrouble::LettersMissing, id_, 0});
    return Done{};
  }

private:
  const Recipe& recipe() const { return document_.find(id_)->lettering()->recipe; }
  template <class Change> Result<Done> changed(const Change& change) {
    document_ = edit_piece(std::move(document_), id_, [&](Piece& p) { change(p.lettering()->recipe); });
    return seat();
  }
  Result<Done> seat() {
    Effort effort;
    effort.stop = stop_;
    const Result<PieceResult> got = evaluator_.piece(document_, id_, Depth::Seat, effort);
    if (!got)
      return got.error();
    now_ = got->seated;
    return Done{};
  }
  double room() const {
    if (rule_.room > 0)
      return rule_.room;
    return recipe().bend.rides() ? now_->guide_length : 0;
  }
  double too_long() const { return room() > 0 ? now_->used_length - room() : 0; }
  double cap_height() const { return now_->spaced->set->cap_height; }

  Result<Done> shrink() {
    const double was = recipe().letters()->size;
    for (int i = 0; i < most_tries && too_long() > fits_within; ++i) {
      const double size = recipe().letters()->size * (room() - fits_within / 2) / now_->used_length;
      if (!(size >= least_of_size * was))
        break;
      const double by = size / recipe().letters()->size;
      if (const Result<Done> done = changed([&](Recipe& r) {
            r.letters()->size = size;
            r.spacing.letter *= by, r.spacing.word *= by, r.bend.guide.fit_height = false;
          });
          !done)
        return done.error();
    }
    return Done{};
  }
  Result<Done> tighten() {
    const std::size_t gaps = std::max<std::size_t>(recipe().letters()->text.size(), 2) - 1;
    const double wanted = too_long() / double(gaps), most = most_tightened * cap_height();
    return changed([&](Recipe& r) { r.spacing.letter -= std::min(wanted * 1.001 + 1e-6, most); });
  }
  Result<Done> spread() {
    return changed([&](Recipe& r) {
      r.spacing.mode = SpacingMode::Spread;
      r.spacing.over = rule_.room > 0 ? SpreadOver::Length : SpreadOver::Guide;
      r.spacing.length = room();
    });
  }
  // At the blank that leaves the longer of the two lines shortest, where two lines can be set.
  Result<Done> part() {
    const TypedText text = recipe().letters()->text;
    std::size_t best = text.size(), least = text.size();
    for (std::size_t i = 1; i + 1 < text.size(); ++i)
      if (const std::size_t longer = std::max(i, text.size() - i - 1); text[i].c == U' ' && longer < least)
        best = i, least = longer;
    const bool has_lines = std::any_of(text.begin(), text.end(), [](const TypedChar& t) { return t.c == U'\n'; });
    if (best == text.size() || has_lines)
      return Done{};
    const Document one_line = document_;
    const std::shared_ptr<const SeatedText> seated = now_;
    const Result<Done> parted = changed([&](Recipe& r) { r.letters()->text[best].c = U'\n'; });
    if (!parted && parted.error().code != ErrorCode::Cancelled)
      document_ = one_line, now_ = seated; // a guide too tight for two lines keeps one
    return parted || parted.error().code != ErrorCode::Cancelled ? Result<Done>(Done{}) : parted;
  }

  Document& document_;
  PieceId id_;
  const NameRule& rule_;
  const DocumentEvaluator& evaluator_;
  std::stop_token stop_;
  std::vector<NameFinding>& findings_;
  std::shared_ptr<const SeatedText> now_;
};

} // namespace

std::string column_key(const std::string& name) {
  return to_utf8(cased(trimmed(from_utf8(name)), Capitals::Lower));
}

std::vector<NamePlace> name_places(const std::u32string& text) {
  std::vector<NamePlace> out;
  for (std::size_t i = 0; i < text.size(); ++i) {
    if (text[i] != U'{')
      continue;
    if (i + 1 < text.size() && text[i + 1] == U'{') {
      ++i;
      continue;
    }
    const std::size_t end = text.find(U'}', i), line = text.find(U'\n', i);
    if (end == std::u32string::npos || (line != std::u32string::npos && line < end))
      continue; // a brace
    std::u32string inside = trimmed(text.substr(i + 1, end - i - 1));
    NamePlace place{i, end - i + 1, {}, {}, false};
    if (const std::size_t otherwise = inside.find(U" or "); otherwise != std::u32string::npos) {
      place.otherwise = trimmed(inside.substr(otherwise + 4));
      inside = trimmed(inside.substr(0, otherwise));
    }
    if (inside.empty())
      continue;
    place.column = to_utf8(cased(inside, Capitals::Lower));
    place.capitals = inside == cased(inside, Capitals::Capitals) && from_utf8(place.column) != inside;
    out.push_back(place);
    i = end;
  }
  return out;
}

bool has_places(const Lettering& lettering) {
  const Letters* letters = lettering.recipe.letters();
  return letters != nullptr && !name_places(plain_text(letters->text)).empty();
}

std::vector<std::string> wanted_columns(const Document& document) {
  std::vector<std::string> out;
  for (const auto& p : document.pieces)
    if (const Lettering* l = p->lettering(); l != nullptr && l->recipe.letters() != nullptr)
      for (const NamePlace& place : name_places(plain_text(l->recipe.letters()->text)))
        if (place.column != "number" && std::find(out.begin(), out.end(), place.column) == out.end())
          out.push_back(place.column);
  return out;
}

NameRule rule_for(const NameList& list, PieceId piece) {
  for (const NameRule& r : list.rules)
    if (r.piece == piece)
      return r;
  NameRule usual;
  usual.piece = piece;
  return usual;
}

Said words_of(const NameFinding& f) {
  switch (f.trouble) {
  case NameTrouble::Empty:
    return FRELM_WORDS("core", "nothing to set");
  case NameTrouble::TooLong:
    return say(FRELM_WORDS("core", "too long by %1 mm"), short_number(f.by, 1));
  case NameTrouble::LettersLow:
    return say(FRELM_WORDS("core", "letters only %1 mm high"), short_number(f.by, 1));
  case NameTrouble::LettersMissing:
    return FRELM_WORDS("core", "letters that the face does not have");
  }
  return {};
}

Result<FilledRow> with_row(const Document& document, const NameList& list, std::size_t row,
                           const DocumentEvaluator& evaluator, const std::stop_token& stop) {
  if (row >= list.rows.size())
    return bad_input(FRELM_WORDS("core", "the list has no such row"),
                     say(FRELM_WORDS("core", "row %1"), std::to_string(row + 1)));
  FilledRow out{document, {}};
  out.document.names = nullptr;
  const Result<std::vector<FilledText>> texts = filled_texts(document, list, row);
  if (!texts)
    return texts.error();
  for (const auto& [shared, text] : *texts) {
    // Its own characters: what hands did to the text with the places is not for this one.
    const TypedText typed = retyped({}, text, out.document.next_id);
    const Piece* hand = made_by_hand(document, list, shared->id, text);
    out.by_hand = out.by_hand || hand != nullptr;
    out.document = edit_piece(std::move(out.document), shared->id, [&](Piece& p) {
      Recipe& recipe = p.lettering()->recipe;
      recipe.letters()->text = typed;
      recipe.letters()->alternates.clear(), recipe.tweaks.clear(), recipe.pairs.clear();
      if (hand != nullptr)
        take_over(recipe, hand->lettering()->recipe);
    });
    if (trimmed(text).empty()) {
      out.findings.push_back({NameTrouble::Empty, shared->id, 0});
      continue;
    }
    const NameRule rule = rule_for(list, shared->id);
    Fitter fitter(out.document, shared->id, rule, evaluator, stop, out.findings);
    if (const Result<Done> fitted = fitter.run(); !fitted)
      return Error{fitted.error().code, fitted.error().what,
                   say(FRELM_WORDS("core", "row %1"), std::to_string(row + 1))};
  }
  return out;
}

Result<RowAside> row_aside(const Document& document, std::size_t row, const DocumentEvaluator& evaluator,
                           const std::stop_token& stop) {
  const NameList list = document.names != nullptr ? *document.names : NameList{};
  Result<FilledRow> filled_row = with_row(document, list, row, evaluator, stop);
  if (!filled_row)
    return filled_row.error();
  const Result<std::vector<FilledText>> texts = filled_texts(document, list, row);
  if (!texts)
    return texts.error();
  RowAside out{std::move(filled_row->document), {}};
  NameList after = list;
  for (const auto& [shared, text] : *texts) {
    if (const Piece* there = made_by_hand(document, list, shared->id, text)) {
      out.ids.push_back(there->id);
      continue;
    }
    if (trimmed(text).empty())
      continue;
    if (after.by_hand.size() >= most_names_by_hand)
      return bad_input(FRELM_WORDS("core", "too many names stand beside the sheet; delete some of them"));
    Result<Copied> made = parked(out.document, {shared->id}, evaluator);
    if (!made)
      return made.error();
    out.document = std::move(made->document);
    out.ids.push_back(made->ids.front());
    after.by_hand.push_back({shared->id, made->ids.front()});
  }
  if (out.ids.empty())
    return bad_input(FRELM_WORDS("core", "the row has no letters to change"),
                     say(FRELM_WORDS("core", "row %1"), std::to_string(row + 1)));
  if (after == list) { // all of it stands there
    out.document = document;
    return out;
  }
  for (auto& piece : out.document.pieces) // on the sheet all is as it was
    for (const auto& [was, text] : *texts)
      if (was->id == piece->id)
        piece = was;
  out.document.names = std::make_shared<const NameList>(std::move(after));
  return out;
}

} // namespace frelm
