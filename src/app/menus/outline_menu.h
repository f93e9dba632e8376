// The Outline menu: welding, and what is done to nodes.
#pragma once

#include "app/cards/guide_cards.h"
#include "app/menus/desk.h"
#include "app/session/picture_tracer.h"
#include "document/word_in_frame.h"

namespace frelm {

// Looks for places at which the two that are selected hold together; `done` gets what was found, and in what.
using PlacesFound = std::function<void(const Document&, const Result<FoundInFrame>&)>;
void find_tie_in_places(Desk& desk, const TieInWish& wish, const PlacesFound& done);
// Both as one piece, told how many parts it leaves in.
void make_one_piece(Desk& desk, const WordInFrame& pair, double width, const std::function<void()>& done);

// What was traced, as pieces that are selected. False: there is nothing now.
bool make_traced(Desk& desk, const PictureTracer& tracer, bool keep_backing);

void fill_outline_menu(CommandTable& commands, QMenu* menu, Desk& desk);

void node_command(Desk& desk, NodeCommand command);

} // namespace frelm
