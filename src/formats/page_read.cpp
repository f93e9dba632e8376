#include "formats/page_read.h"

#include "formats/child_program.h"
#include "formats/svg.h"
#include "pages/answers.h"

#include <charconv>
#include <filesystem>

namespace frelm {
namespace {

// Beside this program, where it is installed; where it was built.
std::string page_program() {
  std::error_code ignored;
  const std::filesystem::path here = std::filesystem::read_symlink("/proc/self/exe", ignored).parent_path();
  const std::filesystem::path beside = here / "frelm-pages";
  return std::filesystem::exists(beside, ignored) ? beside.string() : std::string(FRELM_BUILT_PAGES);
}

struct PageAnswer {
  int pages = 1, effects = 0, faces = 0;
  std::string face, damage;
  std::string_view svg;
};

int number(std::string_view text) {
  int out = 0;
  std::from_chars(text.data(), text.data() + text.size(), out);
  return out;
}

// Lines "NAME VALUE", an empty line, the SVG.
PageAnswer taken_apart(std::string_view bytes) {
  PageAnswer out;
  for (std::size_t end = 0; (end = bytes.find('\n')) != std::string_view::npos;) {
    const std::string_view line = bytes.substr(0, end);
    bytes.remove_prefix(end + 1);
    if (line.empty())
      break;
    const std::size_t gap = std::min(line.find(' '), line.size() - 1);
    const std::string_view name = line.substr(0, gap), value = line.substr(gap + 1);
    if (name == "pages")
      out.pages = number(value);
    else if (name == "effects")
      out.effects = number(value);
    else if (name == "faces")
      out.faces = number(value);
    else if (name == "face")
      out.face = value;
    else if (name == "damage")
      out.damage = value;
  }
  out.svg = bytes;
  return out;
}

std::optional<Error> failure(const ChildAnswer& answer, int page) {
  using pages::Answer;
  if (answer.ended)
    return Error{ErrorCode::Unsupported,
                 FRELM_WORDS("core",
                             "takes more time or memory than a page may, or is damaged; save it anew, with less "
                             "on the page, where it was made"),
                 {}};
  switch (static_cast<Answer>(answer.code)) {
  case Answer::Done:
    return std::nullopt;
  case Answer::Locked:
    return Error{ErrorCode::Unsupported,
                 FRELM_WORDS("core", "is locked with a password; save it without one where it was made"),
                 {}};
  case Answer::NoSuchPage:
    return Error{ErrorCode::NotFound, say(FRELM_WORDS("core", "has no page %1"), std::to_string(page)), {}};
  case Answer::NoGhostscript:
    return Error{ErrorCode::Unsupported,
                 FRELM_WORDS("core", "is PostScript, which takes Ghostscript to read: install the package "
                                     "“ghostscript”, or save it as PDF or SVG where it was made"),
                 {}};
  case Answer::TooMuch:
    return Error{ErrorCode::Unsupported,
                 FRELM_WORDS("core",
                             "takes more time or memory than a page may; save it with less on the page where it "
                             "was made"),
                 {}};
  case Answer::Unreadable:
  case Answer::Misuse:
    break;
  }
  return Error{
      ErrorCode::Unreadable, FRELM_WORDS("core", "can't be read as pages; it may be damaged or end too soon"), {}};
}

double distance(const Box& a, const Box& b) {
  const double x = std::max({a.x0 - b.x1, b.x0 - a.x1, 0.0}), y = std::max({a.y0 - b.y1, b.y0 - a.y1, 0.0});
  return std::hypot(x, y);
}

bool is_letter(const DrawnShape& s) {
  return s.id == "letter"; // pages/page_svg
}

// What is written together is one shape: letters of one colour, each within half a letter's size of the one before.
void gather_letters(std::vector<DrawnShape>& shapes) {
  std::vector<DrawnShape> out;
  Box last;
  bool in_word = false;
  for (DrawnShape& s : shapes) {
    const Box box = s.outline.bounds();
    const double size = std::max({box.width(), box.height(), last.width(), last.height()});
    if (in_word && is_letter(s) && s.line_width == 0 && s.colour == out.back().colour && distance(last, box) < size / 2)
      out.back().outline.contours.insert(out.back().outline.contours.end(), s.outline.contours.begin(),
                                         s.outline.contours.end());
    else
      out.push_back(std::move(s));
    in_word = is_letter(out.back()) && out.back().line_width == 0;
    last = box;
  }
  for (DrawnShape& s : out)
    s.id.clear(); // the painter's own
  shapes = std::move(out);
}

Result<Drawing> read_page(std::string_view bytes, const char* kind, const DrawingReadOptions& options) {
  constexpr std::size_t most_bytes = std::size_t{256} << 20;
  if (bytes.size() > most_bytes)
    return bad_input(FRELM_WORDS("core", "has more than 256 MB; save it without its pictures where it was made"));
  const Result<ChildAnswer> answer =
      run_child(page_program(), {kind, std::to_string(options.page)}, bytes, {}, options.stop);
  if (!answer)
    return answer.error();
  if (const std::optional<Error> failed = failure(*answer, options.page))
    return *failed;
  const PageAnswer page = taken_apart(answer->bytes);
  Result<Drawing> drawing = read_svg(page.svg, options);
  if (!drawing)
    return drawing;
  gather_letters(drawing->shapes);
  drawing->pages = page.pages, drawing->page = options.page;
  LeftOutList left_out;
  for (LeftOut& l : drawing->left_out) {
    if (l.detail == "letter" || l.detail.starts_with("surface")) // the painter's own names
      l.detail.clear();
    left_out.add(l);
  }
  if (page.effects > 0)
    left_out.add(Lost::Effect, {}, {}, static_cast<std::size_t>(page.effects));
  if (page.faces > 0)
    left_out.add(Lost::OtherFace, {}, page.face, static_cast<std::size_t>(page.faces));
  if (!page.damage.empty())
    left_out.add(Lost::Damaged, {}, page.damage);
  drawing->left_out = left_out.list();
  return drawing;
}

} // namespace

bool looks_like_pdf(std::string_view bytes) {
  return bytes.substr(0, 1024).find("%PDF-") != std::string_view::npos; // ISO 32000-1, annex H 3.4.1: within 1024 bytes
}

bool looks_like_postscript(std::string_view bytes) {
  return bytes.starts_with("%!") || bytes.starts_with("\xC5\xD0\xD3\xC6") || bytes.starts_with("\x04%!");
}

Result<Drawing> read_pdf(std::string_view bytes, const DrawingReadOptions& options) {
  return read_page(bytes, "pdf", options);
}
Result<Drawing> read_postscript(std::string_view bytes, const DrawingReadOptions& options) {
  return read_page(bytes, "ps", options);
}

} // namespace frelm
