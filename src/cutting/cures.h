// Cures: what one click on a finding does.
#pragma once

#include "cutting/check.h"
#include "document/edits.h"

namespace frelm {

// The cures that help a run that is too long, the likeliest first.
std::vector<Cure> length_cures(const Lettering& lettering, const SeatedText& text, const FaceLibrary& faces);

// The guide made `by` mm longer where its kind allows (lines, arcs and spirals at their end, round ones in size), or
// scaled about its centre.
GuideShape lengthened(const GuideShape& shape, double length, double by);

} // namespace frelm
