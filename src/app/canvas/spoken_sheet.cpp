// A child is named by what it is of (a piece's id, a place among letters or nodes), never held: each answer looks it up
// again, and says nothing once it has gone.
#include "app/canvas/spoken_sheet.h"

#include "app/canvas/canvas.h"
#include "app/canvas/handles.h"
#include "document/measure.h"
#include "document/outline_edits.h"

#include <QAccessible>
#include <QAccessibleWidget>
#include <map>

namespace frelm {
namespace {

enum class SpokenKind { Piece, Letter, Handle, Node };
struct SpokenKey {
  SpokenKind kind = SpokenKind::Piece;
  PieceId piece = 0;
  std::size_t at = 0, contour = 0;
  auto operator<=>(const SpokenKey&) const = default;
};

class SpokenSheet;

class SpokenChild final : public QAccessibleInterface, public QAccessibleActionInterface {
public:
  SpokenChild(SpokenSheet& sheet, const SpokenKey& key) : sheet_(sheet), key_(key) {}

  bool isValid() const override;
  QObject* object() const override { return nullptr; }
  QWindow* window() const override;
  QAccessibleInterface* parent() const override;
  QAccessibleInterface* child(int index) const override;
  int childCount() const override;
  int indexOfChild(const QAccessibleInterface* child) const override;
  QAccessibleInterface* childAt(int, int) const override { return nullptr; }
  QString text(QAccessible::Text what) const override;
  void setText(QAccessible::Text, const QString&) override {}
  QRect rect() const override;
  QAccessible::Role role() const override;
  QAccessible::State state() const override;
  void* interface_cast(QAccessible::InterfaceType type) override {
    return type == QAccessible::ActionInterface ? static_cast<QAccessibleActionInterface*>(this) : nullptr;
  }
  QStringList actionNames() const override {
    return key_.kind == SpokenKind::Handle ? QStringList{} : QStringList{pressAction()};
  }
  void doAction(const QString& name) override;
  QStringList keyBindingsForAction(const QString&) const override { return {}; }

  const SpokenKey& key() const { return key_; }

private:
  SpokenSheet& sheet_;
  SpokenKey key_;
};

class SpokenSheet final : public QAccessibleWidget {
public:
  explicit SpokenSheet(Canvas* canvas) : QAccessibleWidget(canvas, QAccessible::Canvas) {}
  ~SpokenSheet() override {
    for (const auto& [key, id] : known_)
      QAccessible::deleteAccessibleInterface(id);
  }

  Canvas& canvas() const { return *static_cast<Canvas*>(object()); }
  Session& session() const { return canvas().session(); }
  std::vector<Handle> handles() const { return handles_of(session(), 1 / canvas().px_per_mm()); }
  // Of what the Nodes tool works on.
  Outline nodes() const {
    const Piece* piece = session().selected();
    if (canvas().tool() != ToolKind::Nodes || piece == nullptr || piece->lettering() != nullptr)
      return {};
    const Result<Outline> outline = nodes_of(session().shown(), piece->id);
    return outline ? *outline : Outline{};
  }

  // Pieces from the front, then handles or nodes.
  std::vector<SpokenKey> keys() const {
    std::vector<SpokenKey> out;
    const auto& pieces = session().shown().pieces;
    for (auto it = pieces.rbegin(); it != pieces.rend(); ++it)
      out.push_back({SpokenKind::Piece, (*it)->id});
    const Outline outline = nodes();
    for (std::size_t c = 0; c < outline.contours.size(); ++c)
      for (std::size_t i = 0; i < node_count(outline.contours[c]); ++i)
        out.push_back({SpokenKind::Node, session().selected()->id, i, c});
    if (outline.empty())
      for (std::size_t i = 0; i < handles().size(); ++i)
        out.push_back({SpokenKind::Handle, 0, i});
    return out;
  }
  QAccessibleInterface* of(const SpokenKey& key) {
    const auto it = known_.find(key);
    if (it != known_.end())
      return QAccessible::accessibleInterface(it->second);
    auto* made = new SpokenChild(*this, key);
    known_[key] = QAccessible::registerAccessibleInterface(made);
    return made;
  }

  int childCount() const override { return static_cast<int>(keys().size()); }
  QAccessibleInterface* child(int index) const override {
    const std::vector<SpokenKey> all = keys();
    return index >= 0 && index < static_cast<int>(all.size())
               ? const_cast<SpokenSheet*>(this)->of(all[static_cast<std::size_t>(index)])
               : nullptr;
  }
  int indexOfChild(const QAccessibleInterface* child) const override {
    const auto* spoken = dynamic_cast<const SpokenChild*>(child);
    const std::vector<SpokenKey> all = keys();
    const auto it = spoken != nullptr ? std::find(all.begin(), all.end(), spoken->key()) : all.end();
    return it != all.end() ? static_cast<int>(it - all.begin()) : -1;
  }
  QAccessibleInterface* childAt(int x, int y) const override {
    for (int i = childCount(); i-- > 0;) // handles lie in front
      if (QAccessibleInterface* c = child(i); c->rect().contains(x, y))
        return c;
    return nullptr;
  }

  QRect on_screen(const Box& mm) const {
    if (mm.empty())
      return {};
    const QPointF a = canvas().to_screen({mm.x0, mm.y0}), b = canvas().to_screen({mm.x1, mm.y1});
    return {canvas().mapToGlobal(a.toPoint()), canvas().mapToGlobal(b.toPoint())};
  }
  // Letters that have ink.
  std::vector<const PlacedLetter*> letters(PieceId id) const {
    std::vector<const PlacedLetter*> out;
    const Result<PieceResult>& now = session().seated(id);
    if (now && now->seated != nullptr)
      for (const PlacedLetter& l : now->seated->letters)
        if (!l.blank())
          out.push_back(&l);
    return out;
  }

private:
  std::map<SpokenKey, QAccessible::Id> known_;
};

QString handle_words(const Handle& h) {
  const auto corner = [](std::size_t i) {
    const QString names[]{QObject::tr("upper left"), QObject::tr("upper right"), QObject::tr("lower right"),
                          QObject::tr("lower left")};
    return names[i % 4];
  };
  switch (h.kind) {
  case HandleKind::Bead:
    return QObject::tr("Bead: slides the run along its guide");
  case HandleKind::Stem:
    return QObject::tr("Stem: pulls the letters off the guide");
  case HandleKind::ArcPull:
    return QObject::tr("Pull of the arc");
  case HandleKind::Shape:
    switch (h.shape) {
    case ShapeHandleKind::Move:
      return QObject::tr("Centre of the guide");
    case ShapeHandleKind::Size:
      return QObject::tr("Size of the guide");
    case ShapeHandleKind::Bend:
      return QObject::tr("Bend of the guide");
    case ShapeHandleKind::Turn:
      return QObject::tr("Turn of the guide");
    }
    break;
  case HandleKind::Corner:
    return QObject::tr("Size, %1 corner").arg(corner(h.index));
  case HandleKind::FaceWidth:
    return QObject::tr("Width of the face");
  case HandleKind::FaceWeight:
    return QObject::tr("Weight of the face");
  case HandleKind::LetterTurn:
    return QObject::tr("Turn of the letter");
  case HandleKind::LetterSize:
    return QObject::tr("Size of the letter");
  case HandleKind::Block:
    return h.block.kind == BlockHandleKind::Peg ? QObject::tr("Peg %1 of the net").arg(h.index + 1)
                                                : QObject::tr("Handle %1 of the block").arg(h.index + 1);
  case HandleKind::Shade:
    return QObject::tr("Depth and angle of the shade");
  case HandleKind::RingDistance:
    return QObject::tr("Distance of the ring");
  case HandleKind::Tab:
    return QObject::tr("Place of the tab");
  case HandleKind::Tie:
    return QObject::tr("Place of tie %1").arg(h.part + 1);
  case HandleKind::Turn:
    return QObject::tr("Turn");
  case HandleKind::Lean:
    return QObject::tr("Lean");
  }
  return {};
}

bool SpokenChild::isValid() const {
  const Session& s = sheet_.session();
  switch (key_.kind) {
  case SpokenKind::Piece:
    return s.shown().find(key_.piece) != nullptr;
  case SpokenKind::Letter:
    return s.shown().find(key_.piece) != nullptr && key_.at < sheet_.letters(key_.piece).size();
  case SpokenKind::Handle:
    return key_.at < sheet_.handles().size();
  case SpokenKind::Node: {
    const Outline o = sheet_.nodes();
    return s.selected() != nullptr && s.selected()->id == key_.piece && key_.contour < o.contours.size() &&
           key_.at < node_count(o.contours[key_.contour]);
  }
  }
  return false;
}

QWindow* SpokenChild::window() const {
  return sheet_.window();
}

QAccessibleInterface* SpokenChild::parent() const {
  if (key_.kind == SpokenKind::Letter)
    return sheet_.of({SpokenKind::Piece, key_.piece});
  return &sheet_;
}

int SpokenChild::childCount() const {
  return key_.kind == SpokenKind::Piece && isValid() ? static_cast<int>(sheet_.letters(key_.piece).size()) : 0;
}

QAccessibleInterface* SpokenChild::child(int index) const {
  return index >= 0 && index < childCount()
             ? sheet_.of({SpokenKind::Letter, key_.piece, static_cast<std::size_t>(index)})
             : nullptr;
}

int SpokenChild::indexOfChild(const QAccessibleInterface* child) const {
  const auto* spoken = dynamic_cast<const SpokenChild*>(child);
  return spoken != nullptr && spoken->key().kind == SpokenKind::Letter && spoken->key().piece == key_.piece
             ? static_cast<int>(spoken->key().at)
             : -1;
}

QString SpokenChild::text(QAccessible::Text what) const {
  if (!isValid())
    return {};
  const Session& s = sheet_.session();
  const Unit unit = s.shown().unit;
  const auto place = [&](Point p) {
    return QObject::tr("at %1, %2 %3").arg(length_text(p.x, unit), length_text(p.y, unit), unit_name(unit));
  };
  const bool name = what == QAccessible::Name;
  if (!name && what != QAccessible::Description)
    return {};
  switch (key_.kind) {
  case SpokenKind::Piece: {
    const Piece& piece = *s.shown().find(key_.piece);
    if (name)
      return piece_words(s.shown(), piece);
    QStringList said{destination_word(piece.destination)};
    if (!piece.visible)
      said << QObject::tr("hidden");
    if (piece.locked)
      said << QObject::tr("locked");
    if (const Result<PieceResult>& now = s.seated(piece.id); now && !now->ink.empty())
      said << QObject::tr("%1 × %2 %3")
                  .arg(length_text(now->ink.width(), unit), length_text(now->ink.height(), unit), unit_name(unit))
           << place({now->ink.x0, now->ink.y0});
    return said.join(QObject::tr(", "));
  }
  case SpokenKind::Letter: {
    const PlacedLetter& l = *sheet_.letters(key_.piece)[key_.at];
    const Piece& piece = *s.shown().find(key_.piece);
    if (!name)
      return place(l.origin);
    const Letters* letters = piece.lettering()->recipe.letters();
    const QString said = letters != nullptr && l.first < letters->text.size()
                             ? QString::fromStdU32String(plain_text(letters->text).substr(l.first, l.count))
                             : QString();
    return said.trimmed().isEmpty() ? QObject::tr("Letter %1").arg(key_.at + 1) : said;
  }
  case SpokenKind::Handle: {
    const Handle h = sheet_.handles()[key_.at];
    return name ? handle_words(h) : place(h.at);
  }
  case SpokenKind::Node: {
    const Outline o = sheet_.nodes();
    const Contour& c = o.contours[key_.contour];
    if (!name)
      return place(node_point(c, key_.at));
    const NodeKind kind = node_kind(c, key_.at);
    const QString words = kind == NodeKind::Corner ? QObject::tr("Corner")
                          : kind == NodeKind::End  ? QObject::tr("End")
                                                   : QObject::tr("Smooth node");
    return o.contours.size() == 1 ? QObject::tr("%1 %2 of %3").arg(words).arg(key_.at + 1).arg(node_count(c))
                                  : QObject::tr("%1 %2 of %3, line %4")
                                        .arg(words)
                                        .arg(key_.at + 1)
                                        .arg(node_count(c))
                                        .arg(key_.contour + 1);
  }
  }
  return {};
}

QRect SpokenChild::rect() const {
  if (!isValid())
    return {};
  const Session& s = sheet_.session();
  const auto around = [&](Point p) {
    Box box;
    box.add(p);
    return sheet_.on_screen(box.grown(pick_px / sheet_.canvas().px_per_mm()));
  };
  switch (key_.kind) {
  case SpokenKind::Piece:
    return sheet_.on_screen(s.drawn_box(key_.piece));
  case SpokenKind::Letter: {
    const PlacedLetter& l = *sheet_.letters(key_.piece)[key_.at];
    return sheet_.on_screen(l.shape->transformed(l.place).bounds());
  }
  case SpokenKind::Handle:
    return around(sheet_.handles()[key_.at].at);
  case SpokenKind::Node:
    return around(node_point(sheet_.nodes().contours[key_.contour], key_.at));
  }
  return {};
}

QAccessible::Role SpokenChild::role() const {
  switch (key_.kind) {
  case SpokenKind::Piece:
    return QAccessible::Graphic;
  case SpokenKind::Letter:
    return QAccessible::StaticText;
  case SpokenKind::Handle: // grips and indicators have no role on the accessibility bus
    return QAccessible::Graphic;
  case SpokenKind::Node:
    return QAccessible::RadioButton; // one of them is chosen
  }
  return QAccessible::NoRole;
}

QAccessible::State SpokenChild::state() const {
  QAccessible::State out;
  out.invalid = !isValid();
  if (out.invalid)
    return out;
  const Session& s = sheet_.session();
  const auto& ids = s.selection();
  out.selectable = key_.kind != SpokenKind::Handle;
  out.focusable = out.selectable;
  switch (key_.kind) {
  case SpokenKind::Piece: {
    out.selected = std::find(ids.begin(), ids.end(), key_.piece) != ids.end();
    out.invisible = !s.shown().find(key_.piece)->visible;
    break;
  }
  case SpokenKind::Letter: {
    const PlacedLetter* chosen = chosen_letter(s);
    out.selected = chosen != nullptr && s.selected()->id == key_.piece && chosen == sheet_.letters(key_.piece)[key_.at];
    break;
  }
  case SpokenKind::Node: {
    const auto& nodes = s.nodes_chosen();
    out.selected = std::find(nodes.begin(), nodes.end(), NodeAt{key_.contour, key_.at}) != nodes.end();
    break;
  }
  case SpokenKind::Handle:
    break;
  }
  out.focused = out.selected && sheet_.canvas().hasFocus() && ids.size() == 1;
  return out;
}

void SpokenChild::doAction(const QString& name) {
  if (name != pressAction() || !isValid())
    return;
  Session& s = sheet_.session();
  switch (key_.kind) {
  case SpokenKind::Piece:
    s.select({key_.piece});
    break;
  case SpokenKind::Letter: {
    s.select({key_.piece});
    const PlacedLetter& l = *sheet_.letters(key_.piece)[key_.at];
    if (const Letters* letters = s.selected()->lettering()->recipe.letters();
        letters != nullptr && l.first < letters->text.size())
      s.choose_letter(letters->text[l.first].id);
    break;
  }
  case SpokenKind::Node:
    s.choose_nodes({{key_.contour, key_.at}});
    break;
  case SpokenKind::Handle:
    break;
  }
}

} // namespace

QAccessibleInterface* spoken_sheet(const QString&, QObject* object) {
  auto* canvas = qobject_cast<Canvas*>(object);
  return canvas != nullptr ? new SpokenSheet(canvas) : nullptr;
}

} // namespace frelm
