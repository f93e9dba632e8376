#include "lettering/recipe.h"

#include <algorithm>

namespace frelm {
namespace {

constexpr std::size_t largest_table = 4'000'000; // cells of the table below; longer edits are all new between

// Longest common subsequence of a[i..) and b[j..) by the usual table (Wagner & Fischer, The string-to-string
// correction problem, JACM 1974).
void keep_common(const TypedText& was, const std::u32string& now, std::size_t head, std::size_t tail, TypedText& out) {
  const std::size_t n = was.size() - head - tail, m = now.size() - head - tail;
  if (n == 0 || m == 0 || n * m > largest_table)
    return;
  std::vector<std::uint32_t> table((n + 1) * (m + 1), 0);
  const auto cell = [&](std::size_t i, std::size_t j) -> std::uint32_t& { return table[i * (m + 1) + j]; };
  for (std::size_t i = n; i-- > 0;)
    for (std::size_t j = m; j-- > 0;)
      cell(i, j) = was[head + i].c == now[head + j] ? cell(i + 1, j + 1) + 1 : std::max(cell(i + 1, j), cell(i, j + 1));
  for (std::size_t i = 0, j = 0; i < n && j < m;) {
    if (was[head + i].c == now[head + j])
      out[head + j++].id = was[head + i++].id;
    else if (cell(i + 1, j) >= cell(i, j + 1))
      ++i;
    else
      ++j;
  }
}

} // namespace

std::u32string plain_text(const TypedText& text) {
  std::u32string out;
  out.reserve(text.size());
  for (const TypedChar& t : text)
    out.push_back(t.c);
  return out;
}

TypedText retyped(const TypedText& was, const std::u32string& now, std::uint64_t& next_id) {
  TypedText out;
  for (const char32_t c : now)
    out.push_back({c, 0});
  const std::size_t shorter = std::min(was.size(), now.size());
  std::size_t head = 0, tail = 0;
  while (head < shorter && was[head].c == now[head])
    out[head].id = was[head].id, ++head;
  while (tail < shorter - head && was[was.size() - 1 - tail].c == now[now.size() - 1 - tail]) {
    out[now.size() - 1 - tail].id = was[was.size() - 1 - tail].id;
    ++tail;
  }
  keep_common(was, now, head, tail, out);
  for (TypedChar& t : out)
    if (t.id == 0)
      t.id = next_id++;
  return out;
}

} // namespace frelm
