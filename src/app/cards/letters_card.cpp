#include "app/cards/letters_card.h"
#include "app/style/words.h"

#include "document/arrange.h"
#include "document/face_axes.h"
#include "document/letter_shapes.h"

#include <QKeyEvent>
#include <QMenu>
#include <QMimeData>

namespace frelm {
namespace {

constexpr double largest = 5000; // mm

std::u32string u32(const QString& text) {
  const auto ucs4 = text.toUcs4();
  return {ucs4.begin(), ucs4.end()};
}
QString qstring(const std::u32string& text) {
  return QString::fromUcs4(text.data(), static_cast<qsizetype>(text.size()));
}

// Qt 6.4 ends the program when an empty clipboard is pasted (QWidgetTextControl asks for the first of no formats).
class WordsEdit final : public QPlainTextEdit {
protected:
  void insertFromMimeData(const QMimeData* source) override {
    if (source != nullptr && !source->formats().isEmpty())
      QPlainTextEdit::insertFromMimeData(source);
  }
};

constexpr auto letters_of = [](auto Letters::*member) {
  return [member](auto& l) {
    auto* letters = l.recipe.letters();
    return letters != nullptr ? &(letters->*member) : nullptr;
  };
};

} // namespace

LettersCard::LettersCard(Session& session, QWidget* parent)
    : LetteringCard(1, tr("Letters"), session, parent), text_(new WordsEdit), family_(new FaceChoice(session.faces())),
      favourite_(new QToolButton), style_(new ChoiceBox), axes_(new AxesPart(session)),
      size_(length_field(tr("Letter size"), 0.1, largest)), size_by_(new ChoiceBox), cap_source_(note_label()),
      ink_width_(length_field(tr("Finished width"), 0.1, largest)),
      ink_height_(length_field(tr("Finished height"), 0.1, largest)),
      reached_by_(new ChoiceRow(tr("Finished width by"), {tr("Size"), tr("Face width")})),
      guide_scaling_(new ChoiceRow(tr("Guide while resizing"), {tr("Kept"), tr("Scaled")})),
      features_(new QToolButton) {
  add_text();
  add_face();
  add_size();
  add_setting();
  add_finished();
}

const Letters* LettersCard::letters() const {
  const Piece* piece = session_.selected();
  return piece != nullptr && piece->lettering() != nullptr ? piece->lettering()->recipe.letters() : nullptr;
}

void LettersCard::add_text() {
  text_->setAccessibleName(tr("Text"));
  text_->setPlaceholderText(tr("Type the words"));
  text_->setTabChangesFocus(true);
  text_->setUndoRedoEnabled(false); // the document's own history has every step
  text_->installEventFilter(this);
  text_->setFixedHeight(text_->fontMetrics().lineSpacing() * 3 + 14);
  add_wide(text_);
  connect(text_, &QPlainTextEdit::textChanged, this, [this] {
    if (showing_ || session_.selected() == nullptr || session_.selected()->lettering() == nullptr)
      return;
    const PieceId id = session_.selected()->id;
    Document document = session_.document();
    std::uint64_t next_id = document.next_id;
    document = edit_piece(std::move(document), id, [&](Piece& p) {
      if (Letters* l = p.lettering()->recipe.letters())
        l->text = retyped(l->text, u32(text_->toPlainText()), next_id);
    });
    document.next_id = next_id;
    session_.apply(tr("Change text"), std::move(document), {}, "text " + std::to_string(id));
  });
}

void LettersCard::add_face() {
  favourite_->setObjectName("choice");
  favourite_->setCheckable(true);
  favourite_->setFocusPolicy(Qt::StrongFocus);
  favourite_->setAccessibleName(tr("Favourite face"));
  favourite_->setToolTip(tr("Favourites come first in the list"));
  connect(favourite_, &QToolButton::clicked, family_, &FaceChoice::toggle_favourite);
  connect(family_, &FaceChoice::favourites_changed, this, &LettersCard::refresh);
  style_->setAccessibleName(tr("Style"));
  style_->setMinimumContentsLength(5);
  style_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  add_row(tr("Face"), in_row({{family_, 1}, {favourite_, 0}}));
  add_row(tr("Style"), style_);
  add_wide(axes_);
  connect(family_, &FaceChoice::chosen, this, [this](const QString& family) {
    const Letters* l = letters();
    if (l == nullptr || l->face.family == family.toStdString())
      return;
    fill_styles(family);
    edit_letters(tr("Change face"), false, [&](Letters& letters) {
      letters.face = {family.toStdString(), style_->currentText().toStdString()};
    });
  });
  connect(family_, &FaceChoice::refused, this, &LettersCard::problem);
  connect(style_, &QComboBox::textActivated, this, [this](const QString& style) {
    edit_letters(tr("Change style"), false, [&](Letters& l) { l.face = {l.face.family, style.toStdString()}; });
  });
}

void LettersCard::add_size() {
  size_by_->addItems({tr("caps"), tr("x-height"), tr("full height"), tr("em")});
  size_by_->setAccessibleName(tr("Size measures"));
  size_by_->setMinimumContentsLength(5);
  size_by_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  add_row(tr("Size"), {size_, size_by_});
  add_wide(cap_source_);
  connect(size_, &MeasureField::edited, this, [this](double v, bool stepped) {
    edit_letters(tr("Change size"), stepped, [&](Letters& l) { l.size = v; });
  });
  connect(size_by_, &QComboBox::activated, this, [this](int i) { change_measure(static_cast<SizeBy>(i)); });
  number({tr("Width"), tr("Letter width"), tr("Change width")},
         {.kind = MeasureKind::Percent, .low = 5, .high = 1000, .shown_as = 100}, letters_of(&Letters::width));
}

// The letters keep their size; only what is measured changes.
void LettersCard::change_measure(SizeBy by) {
  const Piece* piece = session_.selected();
  if (letters() == nullptr)
    return;
  Letters l = *letters();
  const Result<PieceResult>& now = session_.seated(piece->id);
  const auto face = session_.faces().face(l.face);
  l.size_by = by;
  if (now && now->seated != nullptr && face) {
    const double k = now->seated->spaced->set->mm_per_unit;
    if (const auto set = set_text(l, ligatures_for(piece->lettering()->recipe.spacing), **face))
      l.size *= k / (*set)->mm_per_unit;
  }
  edit_letters(tr("Change what the size measures"), false, [&](Letters& target) { target = l; });
}

void LettersCard::add_setting() {
  choice({tr("Capitals"), tr("Capitals"), tr("Change capitals"),
          tr("As typed, capitals, small letters, a capital for each word; what was typed is kept")},
         {tr("Typed"), tr("ABC"), tr("abc"), tr("Abc")}, letters_of(&Letters::capitals));
  choice({tr("Lines"), tr("Align lines"), tr("Change alignment")}, {tr("Left"), tr("Centre"), tr("Right"), tr("Both")},
         letters_of(&Letters::alignment), [](const Lettering& l) {
           const BendKind laid = l.recipe.bend.laid_by();
           return laid == BendKind::Straight || laid == BendKind::Rails;
         });
  flag({.label = tr("Set downwards"),
        .step = tr("Set downwards"),
        .tip = tr("Letters one below the other, lines side by side; straight or on a guide that goes down")},
       letters_of(&Letters::downwards), [](const Lettering& l) { return l.recipe.bend.kind != BendKind::Arc; });
  flag({.label = tr("Lines equally wide"),
        .step = tr("Make lines equally wide"),
        .tip = tr("Each line is scaled to the widest one's ink; the gaps between the lines stay equal")},
       letters_of(&Letters::equal_width),
       [](const Lettering& l) { return several_lines(l) && !l.recipe.letters()->downwards; });
  features_->setPopupMode(QToolButton::InstantPopup);
  features_->setFocusPolicy(Qt::StrongFocus);
  features_->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
  features_->setAccessibleName(tr("Features of the face"));
  features_->setToolTip(tr("Ligatures, swashes, figures and sets that this face has, for the whole text"));
  features_->setMenu(new QMenu(features_));
  connect(features_->menu(), &QMenu::aboutToShow, this, &LettersCard::fill_features);
  add_row(tr("Features"), features_);
  number({tr("Line pitch"), tr("Line pitch, of cap height"), tr("Change line pitch")},
         {.kind = MeasureKind::Percent, .low = 1, .high = 1000, .step = 5, .shown_as = 100},
         letters_of(&Letters::line_pitch), several_lines);
}

void LettersCard::add_finished() {
  add_row(tr("Finished"), {ink_width_, ink_height_});
  ink_width_->setToolTip(tr("Finished width of the ink; the letter size follows"));
  ink_height_->setToolTip(tr("Finished height of the ink; the letter size follows"));
  connect(ink_width_, &MeasureField::edited, this, [this](double v, bool) { set_ink(InkSide::Width, v); });
  connect(ink_height_, &MeasureField::edited, this, [this](double v, bool) { set_ink(InkSide::Height, v); });
  add_row(tr("Width by"), reached_by_);
  reached_by_->show_choice(0);
  reached_by_->setToolTip(
      tr("By the face's width strokes keep their weight; what it can't give is left to spacing or size"));
  add_row(tr("Guide"), guide_scaling_);
  guide_scaling_->show_choice(0);
  guide_scaling_->setToolTip(tr("While the finished size is changed: the guide stays, or is scaled along"));
}

void LettersCard::fill_features() {
  QMenu* menu = features_->menu();
  menu->clear();
  const Letters* l = letters();
  const auto face = l != nullptr ? session_.faces().face(l->face) : bad_input({});
  if (!face)
    return;
  for (const TextFeature& f : features_of_text(*l, **face)) {
    QAction* action = menu->addAction(QString::fromStdString(f.feature.name));
    action->setCheckable(true);
    action->setChecked(f.on);
    connect(action, &QAction::triggered, this, [this, feature = f.feature](bool on) {
      if (const Piece* now = session_.selected())
        session_.apply(tr("Switch %1").arg(QString::fromStdString(feature.name).toLower()),
                       with_feature(session_.document(), now->id, feature, on));
    });
  }
}

bool LettersCard::eventFilter(QObject* object, QEvent* event) {
  // Undo and redo keys go to the window, not to the text field.
  if (object == text_ && event->type() == QEvent::ShortcutOverride) {
    const auto* key = static_cast<QKeyEvent*>(event);
    if (key->matches(QKeySequence::Undo) || key->matches(QKeySequence::Redo)) {
      event->ignore();
      return true;
    }
  }
  return Card::eventFilter(object, event);
}

void LettersCard::set_ink(InkSide side, double mm) {
  const Piece* piece = session_.selected();
  if (piece == nullptr)
    return;
  if (side == InkSide::Width && reached_by_->choice() == 1 && reached_by_->isVisibleTo(this)) {
    emit width_asked(mm);
    return;
  }
  const GuideScaling guide = guide_scaling_->choice() == 1 ? GuideScaling::Along : GuideScaling::Kept;
  const Result<Document> solved = with_ink_size(session_.document(), piece->id, side, mm, guide, session_.evaluator());
  if (!solved) {
    emit problem(words_of(solved.error()));
    refresh();
    return;
  }
  session_.apply(side == InkSide::Width ? tr("Set finished width") : tr("Set finished height"), *solved);
}

void LettersCard::edit_letters(const QString& name, bool stepped, const std::function<void(Letters&)>& change) {
  edit(name, stepped, [&](Piece& p) {
    if (p.lettering() != nullptr)
      if (Letters* l = p.lettering()->recipe.letters())
        change(*l);
  });
}

void LettersCard::fill_styles(const QString& family) {
  const QString was = style_->currentText();
  style_->clear();
  for (const FaceEntry& e : session_.faces().entries())
    if (e.name.family == family.toStdString())
      style_->addItem(QString::fromStdString(e.name.style));
  const int same = style_->findText(was), regular = style_->findText("Regular");
  style_->setCurrentIndex(same >= 0 ? same : std::max(regular, 0));
}

void LettersCard::show_face(const Letters& l) {
  const QString family = QString::fromStdString(l.face.family), style = QString::fromStdString(l.face.style);
  family_->set_sample(qstring(plain_text(l.text)));
  family_->show_face(family);
  favourite_->setChecked(family_->favourites().contains(family));
  favourite_->setText(favourite_->isChecked() ? "★" : "☆");
  if (style_->property("family").toString() != family) {
    fill_styles(family);
    style_->setProperty("family", family);
  }
  if (style_->findText(style) < 0)
    style_->addItem(style);
  style_->setCurrentText(style);
  axes_->refresh();
}

void LettersCard::show_size(const Piece& piece, const Letters& l) {
  const Unit unit = session_.document().unit;
  for (MeasureField* f : {size_, ink_width_, ink_height_})
    f->set_unit(unit);
  const Result<PieceResult>& now = session_.seated(piece.id);
  const bool seated = now && now->seated != nullptr;
  const Bend& bend = piece.lettering()->recipe.bend;
  const bool fitted = bend.kind == BendKind::Guide && bend.guide.fit_height;
  size_->show_value(fitted && seated ? now->seated->spaced->set->cap_height : l.size);
  size_by_->setCurrentIndex(fitted && seated ? 0 : static_cast<int>(l.size_by));
  size_->setEnabled(!fitted);
  size_by_->setEnabled(!fitted);
  size_->setToolTip(fitted ? tr("Fitted to the guide; see the Bend card") : QString());
  const HeightSource source = seated ? now->seated->spaced->set->cap_source : HeightSource::Capitals;
  cap_source_->setVisible(source != HeightSource::Capitals);
  cap_source_->setText(source == HeightSource::FaceValue
                           ? tr("No Latin capitals: cap height is the face's own value.")
                           : tr("No Latin capitals: cap height is that of the tallest letter."));
  ink_width_->show_value(now ? now->ink.width() : 0);
  ink_height_->show_value(now ? now->ink.height() : 0);
  show_row(reached_by_, bend.laid_by() == BendKind::Straight && axes_->has(width_axis));
  show_row(guide_scaling_, bend.kind == BendKind::Guide);
}

void LettersCard::show_features(const Letters& l) {
  const auto face = session_.faces().face(l.face);
  const std::vector<TextFeature> features = face ? features_of_text(l, **face) : std::vector<TextFeature>{};
  show_row(features_, !features.empty());
  QStringList changed;
  for (const TextFeature& f : features)
    if (f.on != f.feature.normally_on) {
      const QString name = QString::fromStdString(f.feature.name).toLower();
      changed << (f.on ? name : tr("%1 off").arg(name));
    }
  const QString shown = changed.isEmpty() ? tr("as the face has it") : changed.join(", ");
  features_->setText(features_->fontMetrics().elidedText(shown, Qt::ElideRight, 190));
}

void LettersCard::refresh() {
  const Letters* l = letters();
  if (l == nullptr)
    return;
  const Piece& piece = *session_.selected();
  showing_ = true;
  if (const QString text = qstring(plain_text(l->text)); text != text_->toPlainText())
    text_->setPlainText(text);
  show_face(*l);
  show_size(piece, *l);
  show_features(*l);
  show_rows(*piece.lettering());
  const Unit unit = session_.document().unit;
  const QString by[]{tr("%1 %2 caps"), tr("%1 %2 x-height"), tr("%1 %2 high"), tr("%1 %2 em")};
  set_summary(QString("%1 · %2").arg(
      piece_words(session_.shown(), piece),
      by[static_cast<int>(l->size_by)].arg(QString::fromStdString(format_length(l->size, unit)), unit_name(unit))));
  showing_ = false;
}

} // namespace frelm
