#include "app/session/name_rows.h"

namespace frelm {
namespace {

constexpr std::size_t beside = 12; // rows before and after those that are looked at, whose sheets are kept

NameRow worked_out(const Document& document, const NameList& list, std::size_t row, bool with_sheet,
                   const DocumentEvaluator& evaluator, const std::stop_token& stop) {
  NameRow out;
  try {
    const Result<FilledRow> filled = with_row(document, list, row, evaluator, stop);
    if (!filled)
      out.why_not = filled.error().what;
    else {
      out.findings = filled->findings, out.by_hand = filled->by_hand;
      if (with_sheet)
        out.sheet = std::make_shared<const CutSheet>(seen_sheet(filled->document, evaluator, stop));
    }
  } catch (const std::exception& e) {
    out.why_not = as_it_is(e.what());
  }
  out.known = true;
  return out;
}

} // namespace

NameRows::NameRows(Session& session, QObject* parent) : QObject(parent), session_(session) {
  connect(&session_, &Session::history_changed, this, [this] {
    if (wanted_)
      begin_anew();
  });
}

void NameRows::set_wanted(bool wanted) {
  if (wanted == wanted_)
    return;
  wanted_ = wanted;
  if (wanted)
    return begin_anew();
  ++asked_;
  worker_.stop();
  rows_.clear(), known_ = 0;
}

void NameRows::end() {
  wanted_ = false, ++asked_;
  worker_.end();
}

void NameRows::begin_anew() {
  rows_.assign(list() != nullptr ? list()->rows.size() : 0, {});
  known_ = 0;
  emit changed();
  ask();
}

void NameRows::look_at(std::size_t first, std::size_t last) {
  if (first == first_ && last == last_)
    return;
  first_ = first, last_ = last;
  const std::size_t keep_from = first > beside ? first - beside : 0, keep_to = last + beside;
  bool missing = false;
  for (std::size_t i = 0; i < rows_.size(); ++i) {
    if (i < keep_from || i > keep_to)
      rows_[i].sheet = nullptr;
    missing = missing || (i >= first && i <= last && rows_[i].sheet == nullptr);
  }
  if (missing)
    ask();
}

void NameRows::ask() {
  const std::uint64_t id = ++asked_;
  if (!wanted_ || rows_.empty())
    return worker_.stop();
  // What is looked at, then a few beside it, then what is not known yet.
  std::vector<std::pair<std::size_t, bool>> order;
  for (std::size_t i = first_; i <= last_ && i < rows_.size(); ++i)
    if (rows_[i].sheet == nullptr)
      order.emplace_back(i, true);
  for (std::size_t i = 0; i < rows_.size(); ++i)
    if (!rows_[i].known && (i < first_ || i > last_))
      order.emplace_back(i, i + beside >= first_ && i <= last_ + beside);
  worker_.request([this, id, order, document = session_.document()](const std::stop_token& stop) {
    for (const auto& [row, with_sheet] : order) {
      NameRow made = worked_out(document, *document.names, row, with_sheet, session_.evaluator(), stop);
      if (stop.stop_requested())
        return;
      mailbox_.post([this, id, row = row, made = std::move(made)]() mutable {
        if (id != asked_ || row >= rows_.size())
          return;
        known_ += rows_[row].known ? 0 : 1;
        rows_[row] = std::move(made);
        emit row_changed(static_cast<int>(row));
      });
    }
  });
}

std::size_t NameRows::to_look_at() const {
  return static_cast<std::size_t>(
      std::count_if(rows_.begin(), rows_.end(), [](const NameRow& r) { return r.known && !r.sound(); }));
}

void NameRows::set_list(const QString& step, NameList list) {
  Document d = session_.document();
  d.names = list.columns.empty() && list.rows.empty() ? nullptr : std::make_shared<const NameList>(std::move(list));
  session_.apply(step, std::move(d));
}

void NameRows::set_cell(std::size_t row, std::size_t column, const std::string& text) {
  if (list() == nullptr || row >= list()->rows.size() || column >= list()->columns.size() ||
      list()->rows[row][column] == text)
    return;
  NameList changed = *list();
  changed.rows[row][column] = text;
  set_list(tr("Correct row %1").arg(row + 1), std::move(changed));
}

void NameRows::set_rules(const QString& step, const std::function<void(NameRule&)>& change) {
  NameList changed = list() != nullptr ? *list() : NameList{};
  for (const auto& p : session_.document().pieces)
    if (p->lettering() != nullptr && has_places(*p->lettering())) {
      NameRule rule = rule_for(changed, p->id);
      change(rule);
      std::erase_if(changed.rules, [&](const NameRule& r) { return r.piece == rule.piece; });
      changed.rules.push_back(rule);
    }
  set_list(step, std::move(changed));
}

} // namespace frelm
