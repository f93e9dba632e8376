#include "app/cards/piece_choice.h"
#include "app/style/words.h"

namespace frelm {

PieceChoice::PieceChoice(Lines lines, const QString& name, QWidget* parent) : ChoiceBox(parent), lines_(lines) {
  setAccessibleName(name);
  setMinimumContentsLength(8);
  setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  connect(this, &QComboBox::activated, this, [this](int i) {
    if (const auto at = static_cast<std::size_t>(i); at < ids_.size() && ids_[at] != 0)
      emit chosen(ids_[at]);
  });
}

std::vector<PieceId> PieceChoice::pieces(const Session& session, Lines lines) {
  std::vector<PieceId> out;
  for (const auto& p : session.shown().pieces) {
    if (p->lettering() != nullptr)
      continue;
    if (lines != Lines::Any) {
      const auto line = session.evaluator().guide(session.shown(), p->id);
      if (!line || (*line)->curve->closed() != (lines == Lines::Closed))
        continue;
    }
    out.push_back(p->id);
  }
  return out;
}

void PieceChoice::show_pieces(const Session& session, const GuideRef& ref) {
  const Document& document = session.shown();
  ids_ = pieces(session, lines_);
  QStringList names;
  for (const PieceId id : ids_)
    names << piece_words(document, *document.find(id));
  auto current = std::find(ids_.begin(), ids_.end(), ref.guide) - ids_.begin();
  if (current == static_cast<std::ptrdiff_t>(ids_.size())) {
    ids_.push_back(0);
    names << (ref.own ? lines_ == Lines::Closed ? tr("Own copy of a shape") : tr("Own copy of a guide") : tr("None"));
  }
  QStringList shown;
  for (int i = 0; i < count(); ++i)
    shown << itemText(i);
  if (shown != names) {
    clear();
    addItems(names);
  }
  setCurrentIndex(static_cast<int>(current));
}

} // namespace frelm
