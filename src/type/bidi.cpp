#include "type/bidi.h"

#include <algorithm>
#include <fribidi.h>

namespace frelm {

std::vector<BidiRun> bidi_runs(const std::u32string& line) {
  if (line.empty())
    return {};
  const auto n = static_cast<FriBidiStrIndex>(line.size());
  std::vector<FriBidiChar> chars(line.begin(), line.end());
  std::vector<FriBidiCharType> types(line.size());
  std::vector<FriBidiBracketType> brackets(line.size());
  std::vector<FriBidiLevel> levels(line.size(), 0);
  fribidi_get_bidi_types(chars.data(), n, types.data());
  fribidi_get_bracket_types(chars.data(), n, types.data(), brackets.data());
  FriBidiParType base = FRIBIDI_PAR_ON;
  if (fribidi_get_par_embedding_levels_ex(types.data(), brackets.data(), n, &base, levels.data()) == 0)
    std::fill(levels.begin(), levels.end(), FriBidiLevel{0});
  std::vector<BidiRun> runs;
  std::vector<int> run_levels;
  for (std::size_t i = 0; i < line.size(); ++i) {
    if (run_levels.empty() || run_levels.back() != levels[i]) {
      runs.push_back({i, 0, levels[i] % 2 == 1});
      run_levels.push_back(levels[i]);
    }
    ++runs.back().count;
  }
  // Rule L2: from the highest level down, reverse every stretch of runs at that level or higher.
  const int highest = *std::max_element(run_levels.begin(), run_levels.end());
  for (int level = highest; level >= 1; --level)
    for (std::size_t i = 0; i < runs.size();) {
      std::size_t j = i;
      while (j < runs.size() && run_levels[j] >= level)
        ++j;
      std::reverse(runs.begin() + static_cast<std::ptrdiff_t>(i), runs.begin() + static_cast<std::ptrdiff_t>(j));
      std::reverse(run_levels.begin() + static_cast<std::ptrdiff_t>(i),
                   run_levels.begin() + static_cast<std::ptrdiff_t>(j));
      i = std::max(j, i + 1);
    }
  return runs;
}

} // namespace frelm
