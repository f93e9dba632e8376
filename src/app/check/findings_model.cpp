#include "app/check/findings_model.h"

#include "app/style/words.h"

#include <map>

namespace frelm {

QString weight_word(Weight weight) {
  switch (weight) {
  case Weight::MustFix:
    return FindingsModel::tr("Must fix");
  case Weight::Look:
    return FindingsModel::tr("Look at");
  case Weight::Note:
    break;
  }
  return FindingsModel::tr("Note");
}

void FindingsModel::show(std::vector<Finding> findings, Empty when_empty) {
  beginResetModel();
  findings_ = std::move(findings);
  when_empty_ = when_empty;
  kinds_.clear();
  std::map<std::pair<Weight, FindingKind>, std::size_t> known;
  for (std::size_t i = 0; i < findings_.size(); ++i) {
    const auto [it, first] = known.try_emplace({findings_[i].weight, findings_[i].kind}, kinds_.size());
    if (first)
      kinds_.emplace_back();
    kinds_[it->second].push_back(i);
  }
  lay_rows();
  endResetModel();
}

void FindingsModel::lay_rows() {
  rows_.clear();
  for (std::size_t k = 0; k < kinds_.size(); ++k) {
    rows_.push_back({k, kinds_[k].size() == 1 ? 0 : -1});
    if (kinds_[k].size() > 1 && open_.contains(findings_[kinds_[k].front()].kind))
      for (int i = 0; i < static_cast<int>(kinds_[k].size()); ++i)
        rows_.push_back({k, i});
  }
}

void FindingsModel::relay() {
  beginResetModel();
  lay_rows();
  endResetModel();
}

int FindingsModel::rowCount(const QModelIndex& parent) const {
  if (parent.isValid())
    return 0;
  const bool fine =
      std::all_of(findings_.begin(), findings_.end(), [](const Finding& f) { return f.weight == Weight::Note; });
  return static_cast<int>(rows_.size()) + (fine ? 1 : 0); // the last one says that all is well
}

std::vector<const Finding*> FindingsModel::at(int row) const {
  std::vector<const Finding*> out;
  if (row < 0 || row >= static_cast<int>(rows_.size()))
    return out;
  const Row& r = rows_[static_cast<std::size_t>(row)];
  for (std::size_t i = 0; i < kinds_[r.kind].size(); ++i)
    if (r.inside < 0 || r.inside == static_cast<int>(i))
      out.push_back(&findings_[kinds_[r.kind][i]]);
  return out;
}

bool FindingsModel::folds(int row) const {
  return row >= 0 && row < static_cast<int>(rows_.size()) && rows_[static_cast<std::size_t>(row)].inside < 0;
}

void FindingsModel::toggle(int row) {
  if (!folds(row))
    return;
  const FindingKind kind = at(row).front()->kind;
  if (!open_.erase(kind))
    open_.insert(kind);
  relay();
}

int FindingsModel::kind_size(int row) const {
  if (row < 0 || row >= static_cast<int>(rows_.size()))
    return 0;
  return static_cast<int>(kinds_[rows_[static_cast<std::size_t>(row)].kind].size());
}

int FindingsModel::place_in_kind(int row) const {
  return row < 0 || row >= static_cast<int>(rows_.size()) ? -1 : rows_[static_cast<std::size_t>(row)].inside;
}

int FindingsModel::row_of(int row, int n) {
  const int size = kind_size(row);
  if (size == 0)
    return -1;
  const std::size_t kind = rows_[static_cast<std::size_t>(row)].kind;
  n = ((n % size) + size) % size;
  if (size > 1 && open_.insert(findings_[kinds_[kind].front()].kind).second)
    relay();
  for (std::size_t i = 0; i < rows_.size(); ++i)
    if (rows_[i].kind == kind && rows_[i].inside == n)
      return static_cast<int>(i);
  return -1;
}

QVariant FindingsModel::data(const QModelIndex& index, int role) const {
  const int row = index.row();
  const std::vector<const Finding*> found = at(row);
  if (found.empty()) {
    const bool fine = when_empty_ == Empty::Fine;
    switch (role) {
    case TitleRole:
      return fine ? tr("Ready to cut") : tr("Nothing to cut yet");
    case DetailRole:
      return fine ? tr("closed · no crossings · inside the sheet") : tr("findings appear here as you work");
    case WeightRole:
      return fine ? -1 : static_cast<int>(Weight::Note); // a tick only where there is something to be fine
    case CountRole:
      return 1;
    case Qt::AccessibleTextRole:
      return data(index, TitleRole).toString() + ". " + data(index, DetailRole).toString();
    default:
      return {};
    }
  }
  const Finding& first = *found.front();
  switch (role) {
  case TitleRole:
    return core_words(finding_title(first.kind));
  case DetailRole:
    return folds(row) ? tr("%n places", nullptr, static_cast<int>(found.size()))
           : !first.aside.empty()
               ? tr("%1 (set aside: %2)").arg(words_of(first.detail), QString::fromStdString(first.aside))
               : words_of(first.detail);
  case CountRole:
    return static_cast<int>(found.size());
  case InsideRole: // one of several
    return place_in_kind(row) >= 0 && kind_size(row) > 1;
  case OpenRole:
    return open_.contains(first.kind);
  case WeightRole:
    return static_cast<int>(first.weight);
  case Qt::ToolTipRole:
    return tr("%1: %2").arg(weight_word(first.weight), core_words(finding_title(first.kind))) + "\n" +
           words_of(first.detail);
  case Qt::AccessibleTextRole:
    return weight_word(first.weight) + ": " + data(index, TitleRole).toString() + ". " +
           data(index, DetailRole).toString();
  default:
    return {};
  }
}

} // namespace frelm
