// The list of names, and the order given by hand, in the job file.
#include "document/job_json.h"

namespace frelm::job_json {

FRELM_NAMES(NameFit, {NameFit::Keep, "keep"}, {NameFit::Shrink, "shrink"}, {NameFit::Spread, "spread"},
            {NameFit::Tighten, "tighten"}, {NameFit::TwoLines, "two-lines"});

Json name_list(const NameList& list) {
  Json out{{"source", list.source}, {"columns", list.columns}, {"rows", list.rows}, {"rules", Json::array()}};
  for (const NameRule& r : list.rules)
    out["rules"].push_back(
        {{"piece", r.piece}, {"fit", name_of(r.fit)}, {"room", r.room}, {"least_caps", r.least_caps}});
  for (const NameByHand& h : list.by_hand)
    out["by_hand"].push_back({{"piece", h.piece}, {"by", h.by}});
  return out;
}

NameList name_list(const At& at) {
  NameList out;
  const auto texts = [](const At& list) {
    std::vector<std::string> row;
    for (std::size_t i = 0; i < list.size(); ++i)
      row.push_back(list.item(i).text());
    return row;
  };
  out.source = at["source"].text(), out.columns = texts(at["columns"]);
  for (std::size_t i = 0; i < at["rows"].size(); ++i)
    out.rows.push_back(texts(at["rows"].item(i)));
  for (std::size_t i = 0; i < at["rules"].size(); ++i) {
    const At r = at["rules"].item(i);
    out.rules.push_back({r["piece"].whole(), r["fit"].choice<NameFit>(), r["room"].number(), r["least_caps"].number()});
  }
  if (at.has("by_hand")) // since version 16
    for (std::size_t i = 0; i < at["by_hand"].size(); ++i)
      out.by_hand.push_back({at["by_hand"].item(i)["piece"].whole(), at["by_hand"].item(i)["by"].whole()});
  return out;
}

} // namespace frelm::job_json
