#include "app/cards/came_in_card.h"

#include "app/style/words.h"
#include "document/material.h"

#include <QHBoxLayout>
#include <QPushButton>

namespace frelm {
namespace {

QString sentence(QString words) { // lists in one line begin small
  if (!words.isEmpty())
    words[0] = words[0].toUpper();
  return words;
}

QLabel* plain(const QString& words) {
  auto* label = new QLabel(words);
  label->setTextFormat(Qt::PlainText);
  label->setWordWrap(true);
  label->setMinimumWidth(1); // a name of one long word does not widen the column
  label->setToolTip(words);
  return label;
}

// Words, and a button for what can be done about them.
struct OfferedRow {
  QWidget* row;
  QLabel* words;
  QPushButton* button;
};
OfferedRow offered_row(const QString& words, const QString& action) {
  OfferedRow out{new QWidget, plain(words), new QPushButton(action)};
  auto* line = new QHBoxLayout(out.row);
  line->setContentsMargins(0, 0, 0, 0);
  line->addWidget(out.words, 1);
  line->addWidget(out.button, 0, Qt::AlignTop);
  return out;
}

} // namespace

CameInCard::CameInCard(Session& session, QWidget* parent)
    : Card(0, tr("What came in"), session, parent), faults_(session) {
  auto* held = new QWidget;
  holder_ = new QVBoxLayout(held);
  holder_->setContentsMargins(0, 0, 0, 0);
  add_wide(held);
  auto* shut = new QPushButton(tr("Close"));
  shut->setAccessibleName(tr("Close what came in"));
  connect(shut, &QPushButton::clicked, this, &QWidget::hide);
  add_wide(shut);
  connect(&session, &Session::document_changed, this, &CameInCard::refresh);
  connect(&faults_, &LineFaultFinder::found_changed, this, qOverload<>(&CameInCard::show_faults));
  hide();
}

void CameInCard::show_arrivals(std::vector<Arrival> arrivals) {
  arrivals_ = std::move(arrivals);
  earlier_.assign(arrivals_.size(), {});
  if (std::any_of(arrivals_.begin(), arrivals_.end(), [](const Arrival& a) { return a.worth_telling(); }))
    show_again();
  else
    hide();
}

void CameInCard::show_again() {
  if (!holds())
    return;
  build();
  show();
}

void CameInCard::replace(std::size_t at, Arrival arrival) {
  if (at >= arrivals_.size())
    return;
  earlier_[at].push_back(std::exchange(arrivals_[at], std::move(arrival)));
  show_again();
}

bool CameInCard::is_there(const Arrival& arrival) const {
  const Document& now = session_.document();
  return std::any_of(arrival.pieces.begin(), arrival.pieces.end(), [&](PieceId id) { return now.find(id) != nullptr; });
}

bool CameInCard::holds() const {
  return std::any_of(arrivals_.begin(), arrivals_.end(), [&](const Arrival& a) { return is_there(a); });
}

void CameInCard::build() {
  if (inside_ != nullptr) {
    inside_->hide();
    inside_->deleteLater();
  }
  inside_ = new QWidget;
  auto* list = new QVBoxLayout(inside_);
  list->setContentsMargins(0, 0, 0, 0);
  list->setSpacing(6);
  size_buttons_.assign(arrivals_.size(), {});
  fault_rows_.clear(), place_offers_.clear(), material_offers_.clear();
  for (std::size_t i = 0; i < arrivals_.size(); ++i) {
    if (i > 0)
      list->addSpacing(10);
    QLabel* name = plain(arrivals_[i].source.name);
    name->setObjectName("heading");
    list->addWidget(name);
    add_sizes(list, i);
    add_page(list, i);
    add_lines(list, i);
    QWidget* rows = fault_rows_.emplace_back(new QWidget);
    new QVBoxLayout(rows);
    rows->layout()->setContentsMargins(0, 0, 0, 0);
    list->addWidget(rows);
    add_left_out(list, i);
    add_offers(list, i);
  }
  holder_->addWidget(inside_);
  inside_->show(); // at once, not when the loop comes round to it
  show_sizes();
  show_offers();
  std::vector<std::vector<PieceId>> pieces;
  std::vector<LineFaults> known;
  for (const Arrival& a : arrivals_)
    pieces.push_back(a.pieces), known.push_back(a.faults);
  faults_.watch(std::move(pieces), std::move(known));
}

void CameInCard::add_sizes(QVBoxLayout* list, std::size_t at) {
  const Arrival& arrival = arrivals_[at];
  if (arrival.sizes.empty())
    return;
  auto* question = note_label();
  question->setText(tr("The file doesn't say how long its unit is. Which size is right?"));
  list->addWidget(question);
  const Unit unit = session_.document().unit;
  for (const SizeChoice& choice : arrival.sizes) {
    auto* button = new QPushButton(tr("%1 × %2 %3 (%4)")
                                       .arg(length_text(arrival.extent.x * choice.factor, unit),
                                            length_text(arrival.extent.y * choice.factor, unit), unit_name(unit),
                                            core_words(choice.unit)));
    button->setCheckable(true);
    button->setToolTip(tr("One of the file's units is %1").arg(core_words(choice.unit)));
    connect(button, &QPushButton::clicked, this, [this, at, factor = choice.factor] {
      emit size_wanted(at, factor);
      show_sizes();
    });
    list->addWidget(button);
    size_buttons_[at].push_back(button);
  }
}

// The one that the pieces have now, whoever made them so; none where some of them are gone.
void CameInCard::show_sizes() {
  for (std::size_t at = 0; at < size_buttons_.size(); ++at) {
    const double now = size_buttons_[at].empty() ? 0 : size_now(session_.document(), arrivals_[at]);
    for (std::size_t i = 0; i < size_buttons_[at].size(); ++i) {
      constexpr double same = 1e-6;
      const double factor = arrivals_[at].sizes[i].factor;
      size_buttons_[at][i]->setChecked(std::abs(now - factor) <= same * factor);
      size_buttons_[at][i]->setEnabled(now > 0);
    }
  }
}

void CameInCard::add_page(QVBoxLayout* list, std::size_t at) {
  const Arrival& arrival = arrivals_[at];
  if (arrival.pages < 2)
    return;
  auto* row = new QHBoxLayout;
  auto* field = new MeasureField(MeasureKind::Count, tr("Page"));
  field->set_range(1, arrival.pages);
  field->show_value(arrival.as.page);
  field->setToolTip(tr("Which of the file's pages is shown"));
  connect(field, &MeasureField::edited, this, [this, at](double now) {
    TakeAs as = arrivals_[at].as;
    as.page = static_cast<int>(now);
    emit again_wanted(at, as);
  });
  row->addWidget(new QLabel(tr("Page")));
  row->addWidget(field, 1);
  row->addWidget(new QLabel(tr("of %1").arg(arrival.pages)));
  list->addLayout(row);
}

void CameInCard::add_lines(QVBoxLayout* list, std::size_t at) {
  const Arrival& arrival = arrivals_[at];
  if (!arrival.strokes)
    return;
  auto* row = new QHBoxLayout;
  auto* field = new MeasureField(MeasureKind::Length, tr("Lines up to"));
  constexpr double widest = 1000; // mm
  field->set_range(0, widest);
  field->set_unit(session_.document().unit);
  field->show_value(arrival.as.widest_line);
  field->setToolTip(tr("Strokes without a fill up to this width are lines to cut along; wider ones are areas as they "
                       "are seen"));
  connect(field, &MeasureField::edited, this, [this, at](double now) {
    TakeAs as = arrivals_[at].as;
    as.widest_line = now;
    emit again_wanted(at, as);
  });
  row->addWidget(new QLabel(tr("Lines up to")));
  row->addWidget(field, 1);
  list->addLayout(row);
}

void CameInCard::add_left_out(QVBoxLayout* list, std::size_t at) {
  const Arrival& arrival = arrivals_[at];
  if (arrival.left_out.empty())
    return;
  auto* note = note_label();
  note->setText(tr("Left out or changed:"));
  list->addWidget(note);
  for (const LeftOut& l : arrival.left_out) {
    const QString words = sentence(words_of(words_of(l)));
    if (l.places.empty()) {
      list->addWidget(plain(words));
      continue;
    }
    const auto [row, said, where] = offered_row(words, tr("Show"));
    where->setAccessibleName(tr("Show where: %1").arg(words));
    connect(where, &QPushButton::clicked, this, [this, places = l.places, next = std::size_t{0}]() mutable {
      emit look_at(places[next]);
      next = (next + 1) % places.size();
    });
    list->addWidget(row);
  }
}

void CameInCard::add_offers(QVBoxLayout* list, std::size_t at) {
  const auto add = [&](std::vector<Offer>& to, const QString& action) {
    const auto [row, words, button] = offered_row({}, action);
    list->addWidget(row);
    to.push_back({row, words, button});
    return button;
  };
  connect(add(place_offers_, tr("Place")), &QPushButton::clicked, this, [this, at] { emit place_wanted(at); });
  connect(add(material_offers_, tr("Add")), &QPushButton::clicked, this, [this, at] {
    emit clean_wanted(tr("Add materials"), [ids = arrivals_[at].pieces, name = tr("Colour").toStdString()](
                                               const Document& d) { return with_materials_for(d, ids, name); });
  });
}

// What can be done with it as it stands now.
void CameInCard::show_offers() {
  const Document& now = session_.document();
  const auto show = [](const Offer& offer, bool on, const QString& of, const QString& words) {
    offer.row->setVisible(on);
    offer.words->setText(words);
    offer.words->setToolTip(words);
    offer.button->setAccessibleName(of + ": " + words + ": " + offer.button->text());
  };
  for (std::size_t i = 0; i < arrivals_.size(); ++i) {
    show(place_offers_[i], size_now(now, arrivals_[i]) > 0 && !stands_as_in_file(now, arrivals_[i]),
         arrivals_[i].source.name, tr("Where the file has it on its page"));
    const std::size_t colours = colours_without_material(now, arrivals_[i].pieces);
    show(material_offers_[i], colours > 0 && now.materials.size() < most_materials, arrivals_[i].source.name,
         tr("Colours that are no material of the job (%1)").arg(QString::number(colours)));
  }
}

void CameInCard::refresh() {
  if (session_.dragging()) // the document stays
    return;
  bool other = false;
  for (std::size_t i = 0; i < arrivals_.size(); ++i)
    if (!is_there(arrivals_[i]))
      for (Arrival& before : earlier_[i])
        if (is_there(before)) { // undone or done again
          std::swap(before, arrivals_[i]);
          other = true;
          break;
        }
  if (isHidden())
    return;
  if (!holds())
    hide();
  else if (other)
    build();
  else {
    show_sizes();
    show_offers();
  }
}

void CameInCard::show_faults() {
  for (std::size_t i = 0; i < fault_rows_.size(); ++i)
    show_faults(i, faults_.found()[i]);
}

void CameInCard::show_faults(std::size_t at, const LineFaults& found) {
  for (QWidget* old : fault_rows_[at]->findChildren<QWidget*>(Qt::FindDirectChildrenOnly)) {
    old->hide();
    old->deleteLater();
  }
  const auto row = [&](const QString& words, const QString& action, const QString& step, const CleanStep& clean) {
    const auto [part, said, button] = offered_row(words, action);
    button->setAccessibleName(words + ": " + action);
    connect(button, &QPushButton::clicked, this, [this, step, clean] { emit clean_wanted(step, clean); });
    fault_rows_[at]->layout()->addWidget(part);
  };
  const std::vector<PieceId>& ids = arrivals_[at].pieces;
  const auto count = [](std::size_t n) { return QString::number(n); };
  if (found.doubles > 0)
    row(tr("Lines that stand there twice (%1)").arg(count(found.doubles)), tr("Drop"), tr("Drop double lines"),
        [ids](const Document& d) { return doubles_dropped(d, ids); });
  if (found.meeting > 0)
    row(tr("Ends of lines that meet (%1)").arg(count(found.meeting)), tr("Join"), tr("Join ends"),
        [ids](const Document& d) { return ends_joined(d, ids); });
  if (!found.marks.empty())
    row(tr("Registration marks around all of it"), tr("Drop"), tr("Drop registration marks"),
        [marks = found.marks](const Document& d) { return remove_pieces(d, marks).document; });
  if (!found.frames.empty())
    row(tr("A frame around all of it"), tr("Drop"), tr("Drop frame"),
        [frames = found.frames](const Document& d) { return remove_pieces(d, frames).document; });
}

} // namespace frelm
