#include "app/menus/add_menu.h"

#include "app/cards/guide_cards.h"
#include "app/menus/drawings.h"
#include "document/starters.h"
#include "lettering/shape_edit.h"

#include <QApplication>
#include <QClipboard>
#include <QMimeData>

namespace frelm {
namespace {

void add_lettering(Desk& desk) {
  letter_it(desk, Desk::tr("Letters"));
  desk.type_words();
}

void add_guide(Desk& desk, std::size_t kind) {
  const Point centre = desk.sheet_centre();
  const double reach =
      std::round(0.3 * std::min(desk.session.document().sheet.width, desk.session.document().sheet.height));
  constexpr double circle_radius = 100; // mm
  std::optional<GuideShape> made = usual_shape(kind, centre, kind == 0 ? circle_radius : reach);
  if (!made) { // has to be drawn or pointed at: begins with its tool
    desk.canvas.set_guide_kind(kind);
    desk.canvas.set_tool(ToolKind::Guide);
    desk.canvas.setFocus();
    return;
  }
  Added added = add_piece(desk.session.document(), new_guide(std::move(*made)));
  desk.session.apply(Desk::tr("Add %1").arg(guide_kind_name(kind).toLower()), std::move(added.document),
                     std::vector<PieceId>{added.id});
}

// The selected lettering, or a new one of the clipboard's words, on a spiral that has room for it.
void add_spiral_text(Desk& desk) {
  SpiralOptions options;
  options.centre = desk.sheet_centre();
  const Piece* piece = desk.session.selected();
  const Lettering* l = desk.lettering();
  const QString clip = QApplication::clipboard()->text().trimmed();
  if (l != nullptr && l->recipe.letters() != nullptr && !piece->locked) {
    options.lettering = piece->id;
  } else if (!clip.isEmpty() && !looks_like_svg(clip.toStdString())) {
    options.text = u32(clip);
  } else {
    desk.bar.tell(Desk::tr("Copy a text first, or select a lettering; then it can be set on a spiral"));
    return;
  }
  Result<Starter> spiral = add_spiral(desk.session.document(), options, desk.faces);
  if (!spiral) {
    desk.report(spiral.error());
    return;
  }
  desk.session.apply(Desk::tr("Add text on a spiral"), std::move(spiral->document),
                     std::vector<PieceId>{spiral->pieces.back()});
  desk.open_card(desk.bend);
}

} // namespace

void letter_it(Desk& desk, const QString& words) {
  Document document = desk.session.document();
  Piece lettering = new_lettering(desk.session.preferences(), document, u32(words), desk.sheet_centre());
  Added added = add_piece(std::move(document), std::move(lettering));
  desk.session.apply(Desk::tr("Add lettering"), std::move(added.document), std::vector<PieceId>{added.id});
  desk.open_card(desk.bend);
}

void add_badge(Desk& desk) {
  BadgeOptions options;
  options.centre = desk.sheet_centre();
  const double least = std::min(desk.session.document().sheet.width, desk.session.document().sheet.height);
  options.outer = std::round(0.42 * least);
  options.inner = std::round(0.72 * options.outer);
  options.upper = u32(Desk::tr("Upper text"));
  options.lower = u32(Desk::tr("Lower text"));
  Result<Starter> badge = frelm::add_badge(desk.session.document(), options);
  if (!badge) {
    desk.report(badge.error());
    return;
  }
  desk.session.apply(Desk::tr("Add badge"), std::move(badge->document), std::vector<PieceId>{badge->pieces.back()});
  desk.type_words();
}

void fill_add_menu(CommandTable& commands, QMenu* menu, Desk& desk) {
  commands.add(menu, {.id = "add.lettering",
                      .words = Desk::tr("&Lettering"),
                      .keys = {QKeySequence("Ctrl+L")},
                      .tip = Desk::tr("Words set straight, to be bent later"),
                      .run = [&desk] { add_lettering(desk); }});
  commands.add(menu, {.id = "add.badge",
                      .words = Desk::tr("Ba&dge"),
                      .tip = Desk::tr("A circle with words over it, under it and in the middle"),
                      .run = [&desk] { add_badge(desk); }});
  commands.add(menu, {.id = "add.spiral",
                      .words = Desk::tr("&Text on a spiral"),
                      .tip = Desk::tr("The text that was copied last, or the selected lettering"),
                      .run = [&desk] { add_spiral_text(desk); }});
  commands.add(menu, {.id = "add.drawings",
                      .words = Desk::tr("D&rawings…"),
                      .keys = {QKeySequence("Ctrl+Shift+I")},
                      .tip = Desk::tr("Other people's drawings, as what they show"),
                      .run = [&desk] { choose_drawings(desk); }});
  commands.add(menu, {.id = "add.came-in",
                      .words = Desk::tr("&What came in"),
                      .tip = Desk::tr("Sizes, lines and what was not taken of the drawings that came last"),
                      .run = [&desk] { desk.show_came_in(); },
                      .why_not =
                          [&desk] {
                            return desk.came_in() ? QString() : Desk::tr("Nothing of a drawing that came in is there");
                          }});
  menu->addSeparator();
  commands.add(menu,
               {.id = "add.circle", .words = Desk::tr("&Circle guide"), .keys = {QKeySequence("G")}, .run = [&desk] {
                  add_guide(desk, 0);
                }});
  QMenu* guides = menu->addMenu(Desk::tr("&Guide"));
  for (std::size_t kind = 1; kind < std::variant_size_v<GuideShape>; ++kind)
    commands.add(guides, {.id = QString("add.guide.%1").arg(kind),
                          .words = guide_kind_name(kind),
                          .run = [&desk, kind] { add_guide(desk, kind); }});
}

} // namespace frelm
