// What was chosen for an export or a proof, as text to remember.
#pragma once

#include "formats/export.h"
#include "formats/proof.h"

namespace frelm {

std::string write_choice(const ExportChoice& choice);
// Unknown fields are ignored, missing and impossible ones are the usual ones.
ExportChoice read_choice(const std::string& text);

std::string write_proof_form(const ProofForm& form);
ProofForm read_proof_form(const std::string& text);

} // namespace frelm
