#include "app/pieces/pieces_panel.h"

#include "app/commands/colour_choice.h"
#include "app/style/scheme.h"
#include "app/style/words.h"
#include "document/arrange.h"
#include "document/piece_groups.h"
#include "lettering/finish_edit.h"

#include <QHelpEvent>
#include <QLabel>
#include <QMenu>
#include <QMouseEvent>
#include <QPainter>
#include <QStyledItemDelegate>
#include <QToolTip>
#include <QVBoxLayout>

namespace frelm {

// Paints a row and knows where its parts are. A piece has two lines: swatch and name; fold, nodes, eye, lock,
// destination. Its layers and the headings of materials have one.
class PieceRow final : public QStyledItemDelegate {
public:
  using QStyledItemDelegate::QStyledItemDelegate;
  using Part = PiecesPanel::Part;
  using Kind = PiecesModel::RowKind;

  void restyle() { icons_.clear(); }

  QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const override {
    return {100, (kind_of(index) == Kind::Piece ? 2 : 1) * line(option.fontMetrics) + 8};
  }

  static Kind kind_of(const QModelIndex& index) { return static_cast<Kind>(index.data(PiecesModel::KindRole).toInt()); }

  static QRect part(const QRect& row, const QFontMetrics& metrics, Kind kind, Part part) {
    const int side = line(metrics), top = row.top() + 4, second = kind == Kind::Piece ? top + side : top;
    const int pill = widest_pill(metrics), right = row.right() - 6;
    const int indent = kind == Kind::Layer ? side + 6 : 0;
    switch (part) {
    case Part::Colour:
      return {row.left() + 6 + indent, top, side, side};
    case Part::Fold:
      return {row.left() + 6, second, side, side};
    case Part::Destination:
      return {right - pill, second, pill, side};
    case Part::Lock:
      if (kind == Kind::Group)
        return {right - side, top, side, side};
      return {right - pill - 4 - side, second, side, side};
    case Part::Eye:
      if (kind == Kind::Group)
        return {right - 2 * side - 4, top, side, side};
      return kind == Kind::Material ? QRect{right - side, top, side, side}
                                    : QRect{right - pill - 8 - 2 * side, second, side, side};
    case Part::Row:
      break;
    }
    return row;
  }

  void paint(QPainter* painter, const QStyleOptionViewItem& whole_row, const QModelIndex& index) const override {
    painter->save();
    painter->setRenderHint(QPainter::Antialiasing);
    paint_state(painter, whole_row);
    QStyleOptionViewItem option = whole_row;
    option.rect = indented(whole_row.rect, index);
    switch (kind_of(index)) {
    case Kind::Piece:
      paint_piece(painter, option, index);
      break;
    case Kind::Layer:
      paint_swatch(painter, option, index, 4);
      paint_name(painter, option, index, part(option.rect, option.fontMetrics, Kind::Layer, Part::Destination).left());
      paint_pill(painter, option, index);
      break;
    case Kind::Material:
      paint_material(painter, option, index);
      break;
    case Kind::Group:
      paint_group(painter, option, index);
      break;
    }
    painter->restore();
  }

  // What stands in groups stands further in, by little: names need the room.
  static QRect indented(const QRect& row, const QModelIndex& index) {
    constexpr int step = 10, most = 4;
    return row.adjusted(step * std::min(index.data(PiecesModel::DepthRole).toInt(), most), 0, 0, 0);
  }

  void updateEditorGeometry(QWidget* editor, const QStyleOptionViewItem& option,
                            const QModelIndex& index) const override {
    const QRect row = indented(option.rect, index);
    const int left = part(row, option.fontMetrics, kind_of(index), Part::Colour).right() + 4;
    editor->setGeometry(left, row.top() + 1, row.right() - left - 2, line(option.fontMetrics) + 6);
  }

private:
  static int line(const QFontMetrics& metrics) { return std::max(20, metrics.height() + 3); }
  static int widest_pill(const QFontMetrics& metrics) {
    int widest = 0;
    for (int i = 0; i < 4; ++i)
      widest = std::max(widest, metrics.horizontalAdvance(destination_word(static_cast<Destination>(i))));
    return widest + 14;
  }
  const QIcon& icon_of(const char* name) const {
    QIcon& known = icons_[name];
    if (known.isNull())
      known = icon(name);
    return known;
  }

  static void paint_state(QPainter* painter, const QStyleOptionViewItem& option) {
    const Scheme& s = scheme();
    if (option.state & QStyle::State_Selected) {
      painter->setPen(Qt::NoPen);
      painter->setBrush(s.teal_soft);
      painter->drawRoundedRect(QRectF(option.rect).adjusted(1, 0, -1, 0), 4, 4);
    }
    if (option.state & QStyle::State_HasFocus) {
      painter->setPen(QPen(s.teal, 1));
      painter->setBrush(Qt::NoBrush);
      painter->drawRoundedRect(QRectF(option.rect).adjusted(1.5, 0.5, -1.5, -0.5), 4, 4);
    }
  }

  static void paint_swatch(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index,
                           int margin) {
    const Scheme& s = scheme();
    const QColor colour = index.data(PiecesModel::ColourRole).value<QColor>();
    const bool guide = index.data(PiecesModel::GuideRole).toBool();
    painter->setPen(guide ? QPen(colour, 1.2, Qt::DashLine) : QPen(s.dark ? s.muted : s.lines, 1)); // ink is dark too
    painter->setBrush(guide ? QBrush(Qt::NoBrush) : QBrush(colour));
    painter->drawRoundedRect(
        part(option.rect, option.fontMetrics, kind_of(index), Part::Colour).adjusted(margin, margin, -margin, -margin),
        3, 3);
  }

  // Up to `right` px.
  static void paint_name(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index, int right) {
    const QFontMetrics& metrics = option.fontMetrics;
    const int left = part(option.rect, metrics, kind_of(index), Part::Colour).right() + 6;
    const QRect name(left, option.rect.top() + 4, right - 4 - left, line(metrics));
    painter->setPen(index.data(PiecesModel::VisibleRole).toBool() ? scheme().text : scheme().faint);
    painter->drawText(name, Qt::AlignLeft | Qt::AlignVCenter,
                      metrics.elidedText(index.data(PiecesModel::NameRole).toString(), Qt::ElideRight, name.width()));
  }

  static void paint_pill(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) {
    const QRect pill = part(option.rect, option.fontMetrics, kind_of(index), Part::Destination);
    painter->setPen(QPen(scheme().lines, 1));
    painter->setBrush(scheme().field);
    painter->drawRoundedRect(QRectF(pill).adjusted(0.5, 1.5, -0.5, -1.5), 9, 9);
    painter->setPen(scheme().text);
    painter->drawText(pill, Qt::AlignCenter,
                      destination_word(static_cast<Destination>(index.data(PiecesModel::DestinationRole).toInt())));
  }

  // The long words where there is room, else the short ones.
  static void paint_about(QPainter* painter, const QFontMetrics& metrics, const QModelIndex& index, const QRect& room,
                          Qt::Alignment side) {
    QString about = index.data(PiecesModel::AboutRole).toString();
    if (metrics.horizontalAdvance(about) > room.width())
      about = index.data(PiecesModel::ShortAboutRole).toString();
    painter->setPen(scheme().muted);
    painter->drawText(room, side | Qt::AlignVCenter, metrics.elidedText(about, Qt::ElideRight, room.width()));
  }

  void paint_piece(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const {
    const Scheme& s = scheme();
    const QFontMetrics& metrics = option.fontMetrics;
    const auto at = [&](Part p) { return part(option.rect, metrics, Kind::Piece, p); };
    paint_swatch(painter, option, index, 2);
    const QVariantList layers = index.data(PiecesModel::LayersRole).toList();
    const int chip = 10, chips = static_cast<int>(std::min<qsizetype>(layers.size(), 3)) * (chip + 3);
    const int right = option.rect.right() - 8;
    painter->setPen(QPen(s.dark ? s.muted : s.lines, 1));
    for (int i = 0; i * (chip + 3) < chips; ++i) {
      painter->setBrush(layers[i].value<QColor>());
      painter->drawRoundedRect(
          QRect(right - chips + i * (chip + 3) + 3, at(Part::Colour).center().y() - chip / 2, chip, chip), 2, 2);
    }
    int name_end = right - chips;
    if (index.data(PiecesModel::LinkedRole).toULongLong() > 1) {
      const int side = at(Part::Colour).width();
      icon_of("linked").paint(painter,
                              QRect(name_end - side, at(Part::Colour).top(), side, side).adjusted(1, 1, -1, -1));
      name_end -= side + 2;
    }
    paint_name(painter, option, index, name_end);
    const QVariant fold = index.data(PiecesModel::FoldRole);
    if (fold.isValid())
      icon_of(fold.toBool() ? "unfold" : "fold").paint(painter, at(Part::Fold).adjusted(3, 3, -3, -3));
    const QRect eye = at(Part::Eye);
    const int left = at(Part::Colour).right() + 6;
    paint_about(painter, metrics, index, {left, eye.top(), eye.left() - left - 2, eye.height()}, Qt::AlignLeft);
    icon_of(index.data(PiecesModel::VisibleRole).toBool() ? "eye" : "eye-shut")
        .paint(painter, eye.adjusted(1, 1, -1, -1));
    icon_of(index.data(PiecesModel::LockedRole).toBool() ? "lock" : "lock-open")
        .paint(painter, at(Part::Lock).adjusted(1, 1, -1, -1));
    paint_pill(painter, option, index);
  }

  void paint_group(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const {
    const auto at = [&](Part p) { return part(option.rect, option.fontMetrics, Kind::Group, p); };
    icon_of(index.data(PiecesModel::FoldRole).toBool() ? "unfold" : "fold")
        .paint(painter, at(Part::Fold).adjusted(3, 3, -3, -3));
    QFont bold = option.font;
    bold.setWeight(QFont::DemiBold);
    painter->setFont(bold);
    QStyleOptionViewItem named = option;
    named.fontMetrics = QFontMetrics(bold);
    paint_name(painter, named, index, at(Part::Eye).left());
    icon_of(index.data(PiecesModel::VisibleRole).toBool() ? "eye" : "eye-shut")
        .paint(painter, at(Part::Eye).adjusted(1, 1, -1, -1));
    icon_of(index.data(PiecesModel::LockedRole).toBool() ? "lock" : "lock-open")
        .paint(painter, at(Part::Lock).adjusted(1, 1, -1, -1));
  }

  void paint_material(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const {
    const QFontMetrics& metrics = option.fontMetrics;
    const bool guides = index.data(PiecesModel::GuideRole).toBool();
    const QRect eye = part(option.rect, metrics, Kind::Material, Part::Eye);
    painter->setPen(QPen(scheme().lines, 1));
    if (index.row() > 0)
      painter->drawLine(option.rect.topLeft() + QPoint(4, 0), option.rect.topRight() - QPoint(4, 0));
    paint_swatch(painter, option, index, 2);
    QFont bold = option.font;
    bold.setWeight(QFont::DemiBold);
    painter->setFont(bold);
    // The size without its unit where the name would be cut short, and none where it still would.
    const int right = guides ? option.rect.right() - 6 : eye.left() - 4;
    const int left = part(option.rect, metrics, Kind::Material, Part::Colour).right() + 6;
    const int name = QFontMetrics(bold).horizontalAdvance(index.data(PiecesModel::NameRole).toString()) + 8;
    int wide = 0;
    for (const auto role : {PiecesModel::AboutRole, PiecesModel::ShortAboutRole}) {
      wide = metrics.horizontalAdvance(index.data(role).toString());
      if (left + name + wide + 4 <= right)
        break;
      wide = 0;
    }
    paint_name(painter, option, index, right - wide - 4);
    painter->setFont(option.font);
    if (wide > 0)
      paint_about(painter, metrics, index, {right - wide - 2, eye.top(), wide + 2, eye.height()}, Qt::AlignRight);
    if (!guides)
      icon_of(index.data(PiecesModel::OnlyRole).toBool() ? "only" : "eye").paint(painter, eye.adjusted(1, 1, -1, -1));
  }

  mutable std::map<std::string, QIcon> icons_;
};

PiecesPanel::PiecesPanel(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), model_(new PiecesModel(session, this)), list_(new QListView),
      painter_(new PieceRow(this)), by_material_(new QToolButton) {
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(0, 0, 0, 0);
  all->setSpacing(6);
  auto* heading = new QLabel(tr("Pieces"));
  heading->setObjectName("heading");
  by_material_->setText(tr("By material"));
  by_material_->setObjectName("flat");
  by_material_->setCheckable(true);
  by_material_->setToolTip(tr("Under what each is cut from: one sheet a colour"));
  auto* top = new QHBoxLayout;
  top->setContentsMargins(0, 0, 0, 0);
  top->addWidget(heading, 1);
  top->addWidget(by_material_);
  all->addLayout(top);
  all->addWidget(list_);
  list_->setModel(model_);
  list_->setItemDelegate(painter_);
  list_->setAccessibleName(tr("Pieces, the frontmost first"));
  list_->setMinimumWidth(list_->fontMetrics().averageCharWidth() * 23);
  list_->setSelectionMode(QAbstractItemView::ExtendedSelection);
  list_->setDragDropMode(QAbstractItemView::InternalMove);
  list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  list_->setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
  list_->setContextMenuPolicy(Qt::CustomContextMenu);
  list_->viewport()->installEventFilter(this);
  connect(list_, &QWidget::customContextMenuRequested, this, &PiecesPanel::row_menu);
  connect(list_->selectionModel(), &QItemSelectionModel::selectionChanged, this, &PiecesPanel::take_selection);
  list_->setEditTriggers(QAbstractItemView::EditKeyPressed | QAbstractItemView::DoubleClicked);
  connect(model_, &PiecesModel::renamed, this, &PiecesPanel::rename, Qt::QueuedConnection);
  connect(model_, &PiecesModel::reordered, this, &PiecesPanel::reorder, Qt::QueuedConnection);
  connect(&session, &Session::document_changed, this, &PiecesPanel::refresh);
  connect(&session, &Session::selection_changed, this, &PiecesPanel::show_selection);
  connect(&session, &Session::results_changed, model_, &PiecesModel::results_changed);
  connect(&session, &Session::only_changed, model_, &PiecesModel::results_changed);
  connect(by_material_, &QToolButton::toggled, this, [this](bool on) {
    model_->set_by_material(on);
    list_->setDragEnabled(!on);
    refresh();
  });
  refresh();
}

void PiecesPanel::restyle() {
  painter_->restyle();
  list_->viewport()->update();
}

QRect PiecesPanel::part(int row, Part part) const {
  const QModelIndex index = model_->index(row);
  return PieceRow::part(PieceRow::indented(list_->visualRect(index), index), list_->fontMetrics(),
                        PieceRow::kind_of(index), part);
}

void PiecesPanel::refresh() {
  constexpr std::size_t most_rows = 500; // that follow the hand; more are told when it is lifted
  if (session_.dragging() && session_.shown().pieces.size() > most_rows)
    return;
  showing_ = true;
  const bool changed = model_->refresh();
  showing_ = false;
  if (changed)
    show_selection();
}

// Groups in which only a part is selected show what is in them.
void PiecesPanel::unfold_to_selection() {
  const Document& d = session_.shown();
  if (d.groups.empty())
    return;
  bool any = false;
  for (const PieceUnit& unit : units_of(d, session_.selection())) {
    bool outside = unit.group == 0;
    for (const GroupId g : groups_around(d, unit.pieces.front())) {
      if (outside && !model_->unfolded(g))
        model_->set_unfolded(g, true), any = true;
      outside = outside || g == unit.group;
    }
  }
  if (any)
    model_->refresh();
}

void PiecesPanel::show_selection() {
  showing_ = true;
  unfold_to_selection();
  QItemSelection rows;
  QModelIndex last;
  const auto add = [&](std::uint64_t id) {
    if (const int row = model_->row_of(id); row >= 0) {
      last = model_->index(row);
      rows.select(last, last);
    }
  };
  const std::vector<PieceUnit> units = units_of(session_.shown(), session_.selection());
  for (const PieceUnit& unit : units) {
    if (unit.group != 0)
      add(unit.group);
    for (const PieceId id : unit.pieces)
      add(id);
  }
  list_->selectionModel()->select(rows, QItemSelectionModel::ClearAndSelect);
  if (const int row = units.size() == 1 && units[0].group != 0 ? model_->row_of(units[0].group) : -1; row >= 0)
    list_->selectionModel()->setCurrentIndex(model_->index(row), QItemSelectionModel::NoUpdate);
  else if (session_.selection().size() == 1 && last.isValid())
    list_->selectionModel()->setCurrentIndex(last, QItemSelectionModel::NoUpdate);
  showing_ = false;
}

void PiecesPanel::take_selection() {
  if (showing_)
    return;
  std::set<PieceId> chosen;
  for (const QModelIndex& i : list_->selectionModel()->selectedIndexes())
    for (const PieceId id : model_->pieces_at(i.row()))
      chosen.insert(id);
  std::vector<PieceId> ids; // from the back
  for (const auto& p : session_.shown().pieces)
    if (chosen.contains(p->id))
      ids.push_back(p->id);
  session_.select(std::move(ids));
}

void PiecesPanel::reorder(const std::vector<PieceId>& ids, PieceId before, GroupId into) {
  Document document = put_into(stacked_on(session_.document(), ids, before), ids, into);
  if (document != session_.document())
    session_.apply(tr("Change order"), std::move(document));
}

void PiecesPanel::rename(int row, const QString& name) {
  if (const GroupId group = model_->group_at(row))
    session_.apply(tr("Rename group"), with_group_name(session_.document(), group, name.toStdString()));
  else if (const PieceId id = model_->layer_at(row).piece)
    session_.edit(tr("Rename piece"), id, [&](Piece& p) { p.name = name.toStdString(); });
}

void PiecesPanel::set_colour(const PiecesModel::LayerOf& of, Colour colour) {
  session_.edit(tr("Change colour"), of.piece, [&](Piece& p) {
    if (of.role == LayerRole::Letters)
      p.colour = colour;
    else if (p.finish() != nullptr)
      for_each_layer(*p.finish(), [&](LayerRole role, int number, Colour& c, Destination&) {
        c = role == of.role && number == of.number ? colour : c;
      });
  });
}

void PiecesPanel::set_destination(const PiecesModel::LayerOf& of, Destination destination) {
  session_.edit(tr("Send to %1").arg(destination_word(destination).toLower()), of.piece, [&](Piece& p) {
    if (of.role == LayerRole::Letters)
      p.destination = destination;
    else if (p.finish() != nullptr)
      for_each_layer(*p.finish(), [&](LayerRole role, int number, Colour&, Destination& d) {
        d = role == of.role && number == of.number ? destination : d;
      });
  });
}

std::vector<PiecesPanel::Part> PiecesPanel::parts(const QModelIndex& index) const {
  switch (PieceRow::kind_of(index)) {
  case PiecesModel::RowKind::Layer:
    return {Part::Colour, Part::Destination};
  case PiecesModel::RowKind::Material:
    return index.data(PiecesModel::GuideRole).toBool() ? std::vector<Part>{}
                                                       : std::vector<Part>{Part::Colour, Part::Eye};
  case PiecesModel::RowKind::Group:
    return {Part::Fold, Part::Eye, Part::Lock};
  case PiecesModel::RowKind::Piece:
    break;
  }
  std::vector<Part> out{Part::Eye, Part::Lock, Part::Colour, Part::Destination};
  if (index.data(PiecesModel::FoldRole).isValid())
    out.push_back(Part::Fold);
  return out;
}

QString PiecesPanel::tip(const QModelIndex& index, Part part) const {
  const bool material = PieceRow::kind_of(index) == PiecesModel::RowKind::Material;
  if (PieceRow::kind_of(index) == PiecesModel::RowKind::Group && part == Part::Fold)
    return index.data(PiecesModel::FoldRole).toBool() ? tr("Fold the group") : tr("Unfold the group");
  switch (part) {
  case Part::Colour:
    return material ? tr("What this material is…") : tr("Colour of the material…");
  case Part::Fold:
    return index.data(PiecesModel::FoldRole).toBool() ? tr("Fold its layers") : tr("Unfold its layers");
  case Part::Eye:
    if (material)
      return index.data(PiecesModel::OnlyRole).toBool() ? tr("Knife view: all materials") : tr("Knife view: only this");
    return index.data(PiecesModel::VisibleRole).toBool() ? tr("Hide; hidden pieces are not cut") : tr("Show");
  case Part::Lock:
    return index.data(PiecesModel::LockedRole).toBool() ? tr("Unlock") : tr("Lock in place");
  case Part::Destination:
    return tr("Where it goes: knife, pen, guide (never cut) or off…");
  case Part::Row:
    if (const auto copies = index.data(PiecesModel::LinkedRole).toULongLong(); copies > 1)
      return tr("One of %1 linked copies: change one, all follow. Arrange → Free from its copies").arg(copies);
    break;
  }
  return {};
}

void PiecesPanel::do_part(const QModelIndex& index, Part part, QPoint at) {
  const PiecesModel::LayerOf of = model_->layer_at(index.row());
  const bool material = PieceRow::kind_of(index) == PiecesModel::RowKind::Material;
  if (const GroupId group = model_->group_at(index.row())) {
    do_group_part(group, index, part);
    return;
  }
  const Piece* piece = session_.document().find(of.piece);
  if (piece == nullptr && !material)
    return;
  switch (part) {
  case Part::Colour:
    if (material)
      emit materials_wanted();
    else
      choose_colour(this, at, session_, [this, of](Colour c) { set_colour(of, c); });
    break;
  case Part::Fold:
    model_->set_unfolded(of.piece, !index.data(PiecesModel::FoldRole).toBool());
    refresh();
    break;
  case Part::Eye: {
    if (material) {
      const bool only = index.data(PiecesModel::OnlyRole).toBool();
      session_.show_only(only ? std::nullopt : std::optional(model_->colour_at(index.row())));
      break;
    }
    const bool on = !piece->visible;
    session_.edit(on ? tr("Show piece") : tr("Hide piece"), of.piece, [&](Piece& p) { p.visible = on; });
    break;
  }
  case Part::Lock: {
    const bool on = !piece->locked;
    session_.edit(on ? tr("Lock piece") : tr("Unlock piece"), of.piece, [&](Piece& p) { p.locked = on; });
    break;
  }
  case Part::Destination: {
    QMenu menu;
    for (int i = 0; i < 4; ++i)
      connect(menu.addAction(destination_word(static_cast<Destination>(i))), &QAction::triggered, this,
              [this, of, i] { set_destination(of, static_cast<Destination>(i)); });
    menu.exec(at);
    break;
  }
  case Part::Row:
    break;
  }
}

// Of all that stands in the group.
void PiecesPanel::do_group_part(GroupId group, const QModelIndex& index, Part part) {
  if (part == Part::Fold) {
    model_->set_unfolded(group, !index.data(PiecesModel::FoldRole).toBool());
    refresh();
    return;
  }
  const bool eye = part == Part::Eye;
  const bool on = !index.data(eye ? PiecesModel::VisibleRole : PiecesModel::LockedRole).toBool();
  Document d = session_.document();
  for (const PieceId id : members_of(d, group, Members::All))
    d = edit_piece(std::move(d), id, [&](Piece& p) { (eye ? p.visible : p.locked) = on; });
  session_.apply(eye ? (on ? tr("Show group") : tr("Hide group")) : (on ? tr("Lock group") : tr("Unlock group")),
                 std::move(d));
}

void PiecesPanel::row_menu(QPoint at) {
  const QPersistentModelIndex index = list_->indexAt(at).isValid() ? list_->indexAt(at) : list_->currentIndex();
  if (!index.isValid())
    return;
  const QPoint global = list_->viewport()->mapToGlobal(list_->visualRect(index).bottomLeft());
  QMenu menu;
  for (const Part part : parts(index))
    connect(menu.addAction(tip(index, part)), &QAction::triggered, this, [this, index, part, global] {
      if (index.isValid())
        do_part(index, part, global);
    });
  if (!menu.isEmpty())
    menu.exec(global);
}

// Clicks on a row's marks, and what they are.
bool PiecesPanel::eventFilter(QObject* object, QEvent* event) {
  const bool press = event->type() == QEvent::MouseButtonPress || event->type() == QEvent::MouseButtonDblClick;
  if (object != list_->viewport() || (!press && event->type() != QEvent::ToolTip))
    return QWidget::eventFilter(object, event);
  const QPoint at =
      press ? static_cast<QMouseEvent*>(event)->position().toPoint() : static_cast<QHelpEvent*>(event)->pos();
  const QModelIndex index = list_->indexAt(at);
  if (!index.isValid() || (press && static_cast<QMouseEvent*>(event)->button() != Qt::LeftButton))
    return QWidget::eventFilter(object, event);
  for (const Part p : parts(index)) {
    const QRect area = part(index.row(), p);
    if (!area.contains(at))
      continue;
    if (press)
      do_part(index, p, list_->viewport()->mapToGlobal(area.bottomLeft()));
    else
      QToolTip::showText(static_cast<QHelpEvent*>(event)->globalPos(), tip(index, p), list_);
    return true;
  }
  return QWidget::eventFilter(object, event);
}

} // namespace frelm
