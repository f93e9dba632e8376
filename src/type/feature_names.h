// The features of OpenType faces that a person may want to switch, by their registered names.
// Source: Microsoft, OpenType specification 1.9, "Registered features".
#pragma once

#include "type/face.h"

namespace frelm {

// Nothing for features that shaping needs or that mean nothing here.
std::optional<FaceFeature> switchable_feature(const std::string& tag);
// Does it put another shape for one letter?
bool brings_alternates(const std::string& tag);

} // namespace frelm
