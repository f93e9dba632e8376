// The Lettering menu: bends, gaps, level, release and reopening.
#pragma once

#include "app/menus/desk.h"

namespace frelm {

void fill_lettering_menu(CommandTable& commands, QMenu* menu, Desk& desk);

void bend_selected_together(Desk& desk);
// Words on a new lettering that rides on a line.
void letter_on(Desk& desk, PieceId line, const QString& words);
void level_selected(Desk& desk);
// The selected run made as long as its guide, or so many mm wide, by the face's width.
void fit_by_face_width(Desk& desk, std::optional<double> mm = {});
void release_pieces(Desk& desk, const std::vector<PieceId>& ids, ReleaseAs as, GuideAfter guide); // as one step
void release_selected(Desk& desk, ReleaseAs as, GuideAfter guide);
void reopen_selected(Desk& desk);
void type_gaps(Desk& desk, double mm);                              // into all that are chosen
void cure(Desk& desk, const std::vector<PieceId>& pieces, Cure by); // one step, or nothing with the reason

} // namespace frelm
