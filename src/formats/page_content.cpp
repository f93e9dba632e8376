#include "formats/page_content.h"

#include "geom/short_number.h"

namespace frelm {
namespace {

class Content {
public:
  explicit Content(const Box& frame) : frame_(frame) {}

  void words(const std::string& text) { out_ += text; }
  void colour(Colour c, bool line) {
    for (const int part : {c.r, c.g, c.b})
      number(part / 255.0);
    out_ += line ? "RG\n" : "rg\n";
  }
  void width(double mm) {
    number(mm * points_per_mm);
    out_ += "w\n";
  }
  void path(const Outline& outline) {
    for (const Contour& c : outline.contours) {
      if (c.segments.empty())
        continue;
      place(c.segments.front().p0);
      out_ += "m\n";
      for (std::size_t i = 0; i < c.segments.size(); ++i) {
        const Segment& s = c.segments[i];
        if (c.closed && i + 1 == c.segments.size() && s.is_line() && i > 0)
          continue; // closing draws it
        if (s.is_line()) {
          place(s.p3);
          out_ += "l\n";
        } else {
          place(s.p1), place(s.p2), place(s.p3);
          out_ += "c\n";
        }
      }
      if (c.closed)
        out_ += "h\n";
    }
  }
  std::string text() { return std::move(out_); }

private:
  void number(double v) { out_.append(short_number(v, 4)).append(" "); }
  void place(Point p) {
    number((p.x - frame_.x0) * points_per_mm);
    number((frame_.y1 - p.y) * points_per_mm);
  }

  Box frame_;
  std::string out_;
};

} // namespace

std::string page_content(const DrawnPage& page, const PageWords& words) {
  Content out(page.frame);
  out.words("1 j\n");
  for (std::size_t i = 0; i < page.items.size(); ++i) {
    const PageItem& item = page.items[i];
    const auto other_layer = [&](std::size_t k) { return k >= page.items.size() || page.items[k].layer != item.layer; };
    if (words.begin_layer && (i == 0 || other_layer(i - 1)))
      out.words(words.begin_layer(item.layer));
    const bool line = item.line > 0;
    if (item.spot)
      out.words(line ? words.spot_line : words.spot_fill);
    else
      out.colour(item.colour, line);
    if (line)
      out.width(item.line);
    out.path(item.outline);
    out.words(line ? "S\n" : "f\n");
    if (words.begin_layer && other_layer(i + 1))
      out.words(words.end_layer);
  }
  return out.text();
}

void add_item(std::vector<PageItem>& items, PageItem item, ExportInk ink, double line_width) {
  PageItem lines = item;
  lines.line = line_width;
  if (ink == ExportInk::Areas) {
    OutlineParts parts = parts_of(item.outline);
    item.outline = std::move(parts.closed), lines.outline = std::move(parts.open);
    if (!item.outline.empty())
      items.push_back(std::move(item));
  }
  if (!lines.outline.empty())
    items.push_back(std::move(lines));
}

std::vector<DrawnPage> pages_of(const CutPlan& plan, const PageOptions& options) {
  std::vector<DrawnPage> out(options.page_a_layer ? std::max<std::size_t>(1, plan.layers.size()) : 1);
  for (DrawnPage& page : out)
    page.frame = plan.sheet.frame;
  for (std::size_t i = 0; i < plan.sheet.pieces.size(); ++i) {
    const CutPiece& piece = plan.sheet.pieces[i];
    const std::size_t layer = plan.layer_of[i];
    const bool spot = !options.spot.empty() && piece.destination == Destination::Knife;
    add_item(out[options.page_a_layer ? layer : 0].items, {piece.outline, piece.colour, 0, spot, layer}, options.ink,
             hairline);
  }
  return out;
}

} // namespace frelm
