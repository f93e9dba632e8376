// expat reads (it knows entities, their abuse, and encodings, which pugixml does not), pugixml holds the tree.
#include "formats/svg_in/tree.h"

#include <cstring>
#include <expat.h>
#include <iconv.h>
#include <map>
#include <optional>
#include <string>
#include <vector>
#include <zlib.h>

namespace frelm {
namespace {

constexpr std::string_view svg_space = "http://www.w3.org/2000/svg", xlink_space = "http://www.w3.org/1999/xlink",
                           xml_space = "http://www.w3.org/XML/1998/namespace";
constexpr std::size_t most_bytes = 200'000'000, most_elements = 2'000'000;

bool packed(std::string_view bytes) {
  return bytes.starts_with("\x1f\x8b");
}

Result<std::string> unpacked(std::string_view bytes) {
  std::string out;
  z_stream z{};
  constexpr int gzip = 16;
  if (inflateInit2(&z, MAX_WBITS + gzip) != Z_OK)
    return Error{ErrorCode::Internal, FRELM_WORDS("core", "packed data can't be read just now; try again"), {}};
  const std::unique_ptr<z_stream, decltype(&inflateEnd)> closing(&z, &inflateEnd);
  z.next_in = reinterpret_cast<Bytef*>(const_cast<char*>(bytes.data()));
  z.avail_in = static_cast<uInt>(bytes.size());
  std::vector<char> part(1 << 18);
  int state = Z_OK;
  while (state == Z_OK) {
    if (out.size() > most_bytes)
      return bad_input(FRELM_WORDS("core", "holds more than 200 MB; split the drawing up first"));
    z.next_out = reinterpret_cast<Bytef*>(part.data());
    z.avail_out = static_cast<uInt>(part.size());
    state = inflate(&z, Z_NO_FLUSH);
    out.append(part.data(), part.size() - z.avail_out);
  }
  if (state != Z_STREAM_END)
    return Error{ErrorCode::Unreadable,
                 FRELM_WORDS("core", "is damaged or cut short (packed data); save it again, or as plain SVG"),
                 {}};
  return out;
}

class TreeMaker {
public:
  explicit TreeMaker(pugi::xml_document& into) : parser_(XML_ParserCreate(nullptr), &XML_ParserFree), at_(into) {
    XML_SetUserData(parser_.get(), this);
    XML_SetElementHandler(parser_.get(), &TreeMaker::begin, &TreeMaker::end);
    XML_SetCharacterDataHandler(parser_.get(), &TreeMaker::characters);
    XML_SetProcessingInstructionHandler(parser_.get(), &TreeMaker::instruction);
    XML_SetUnknownEncodingHandler(parser_.get(), &TreeMaker::encoding, nullptr);
  }

  Result<Done> read(std::string_view bytes) {
    constexpr std::size_t step = 1 << 20;
    for (std::size_t at = 0; at < bytes.size() || at == 0; at += step) {
      const std::string_view part = bytes.substr(at, step);
      const bool last = at + step >= bytes.size();
      if (XML_Parse(parser_.get(), part.data(), static_cast<int>(part.size()), last ? 1 : 0) != XML_STATUS_OK)
        return failed();
    }
    return Done{};
  }

private:
  Error failed() const {
    if (elements_ > most_elements)
      return bad_input(FRELM_WORDS("core", "has more than 2,000,000 elements; split the drawing up first"));
    const XML_Error code = XML_GetErrorCode(parser_.get());
    return {ErrorCode::Unreadable,
            say(FRELM_WORDS("core", "is not well-formed XML (%1); save it again as SVG"),
                std::string(XML_ErrorString(code))),
            say(FRELM_WORDS("core", "line %1, column %2"), std::to_string(XML_GetCurrentLineNumber(parser_.get())),
                std::to_string(XML_GetCurrentColumnNumber(parser_.get()) + 1))};
  }

  // Nothing: the prefix was never declared.
  std::optional<std::string_view> space_of(std::string_view prefix) const {
    if (prefix == "xml")
      return xml_space;
    const auto known = spaces_.find(prefix);
    if (known == spaces_.end() || known->second.empty())
      return std::nullopt;
    return known->second.back();
  }
  static std::pair<std::string_view, std::string_view> split(std::string_view name) {
    const std::size_t colon = name.find(':');
    return colon == std::string_view::npos ? std::pair(std::string_view(), name)
                                           : std::pair(name.substr(0, colon), name.substr(colon + 1));
  }
  std::string element_name(std::string_view name) const {
    const auto [prefix, local] = split(name);
    const auto space = space_of(prefix);
    const bool svg = space ? *space == svg_space || space->empty() : prefix.empty() || prefix == "svg";
    return (svg ? "" : "other:") + std::string(local);
  }
  std::string attribute_name(std::string_view name) const {
    const auto [prefix, local] = split(name);
    if (prefix.empty())
      return std::string(local);
    const auto space = space_of(prefix);
    const bool xlink = space ? *space == xlink_space : prefix == "xlink";
    return (xlink ? "xlink:" : space == svg_space ? "" : prefix == "xml" ? "xml:" : "other:") + std::string(local);
  }

  static void begin(void* self, const XML_Char* name, const XML_Char** attributes) {
    static_cast<TreeMaker*>(self)->open(name, attributes);
  }
  void open(const XML_Char* name, const XML_Char** attributes) {
    if (++elements_ > most_elements) {
      XML_StopParser(parser_.get(), XML_FALSE);
      return;
    }
    std::vector<std::string>& declared = declared_.emplace_back();
    for (const XML_Char** a = attributes; *a != nullptr; a += 2)
      if (const std::string_view what = a[0]; what == "xmlns" || what.starts_with("xmlns:")) {
        declared.emplace_back(what == "xmlns" ? "" : what.substr(6));
        spaces_[declared.back()].emplace_back(a[1]);
      }
    flush();
    at_ = at_.append_child(element_name(name).c_str());
    for (const XML_Char** a = attributes; *a != nullptr; a += 2)
      at_.append_attribute(attribute_name(a[0]).c_str()).set_value(a[1]);
    for (const std::string& sheet : std::exchange(before_root_, {}))
      add_stylesheet(sheet.c_str());
  }
  static void end(void* self, const XML_Char*) { static_cast<TreeMaker*>(self)->shut(); }
  void shut() {
    flush();
    for (const std::string& prefix : declared_.back())
      spaces_[prefix].pop_back();
    declared_.pop_back();
    at_ = at_.parent();
  }
  // Only style sheets are read as text, and words count as words.
  static void characters(void* self, const XML_Char* text, int length) {
    static_cast<TreeMaker*>(self)->text_.append(text, static_cast<std::size_t>(length));
  }
  void flush() {
    if (text_.find_first_not_of(" \t\r\n") != std::string::npos)
      at_.append_child(pugi::node_pcdata).set_value(text_.c_str());
    text_.clear();
  }
  // Mostly before the root element; then it is put into that.
  void add_stylesheet(const XML_Char* data) {
    if (at_.type() == pugi::node_element)
      at_.append_child("other:stylesheet").append_attribute("says").set_value(data);
    else if (elements_ == 0)
      before_root_.emplace_back(data);
  }
  static void instruction(void* self, const XML_Char* target, const XML_Char* data) {
    if (std::string_view(target) == "xml-stylesheet")
      static_cast<TreeMaker*>(self)->add_stylesheet(data);
  }
  // Encodings of one byte a character.
  static int encoding(void*, const XML_Char* name, XML_Encoding* info) {
    const iconv_t to_ucs4 = iconv_open("UCS-4LE", name);
    if (to_ucs4 == iconv_t(-1))
      return XML_STATUS_ERROR;
    for (int byte = 0; byte < 256; ++byte) {
      char in = static_cast<char>(byte);
      char* from = &in;
      std::size_t from_left = 1, to_left = 4;
      std::uint32_t code = 0;
      char* to = reinterpret_cast<char*>(&code);
      iconv(to_ucs4, nullptr, nullptr, nullptr, nullptr);
      const bool read = iconv(to_ucs4, &from, &from_left, &to, &to_left) != std::size_t(-1) && to_left == 0;
      info->map[byte] = read ? static_cast<int>(code) : -1;
    }
    iconv_close(to_ucs4);
    info->data = nullptr, info->convert = nullptr, info->release = nullptr;
    return XML_STATUS_OK;
  }

  std::unique_ptr<XML_ParserStruct, decltype(&XML_ParserFree)> parser_;
  pugi::xml_node at_;
  std::string text_;
  std::size_t elements_ = 0;
  std::vector<std::string> before_root_;                                // style sheets in other files
  std::map<std::string, std::vector<std::string>, std::less<>> spaces_; // prefix → declarations in force
  std::vector<std::vector<std::string>> declared_;                      // prefixes, by element
};

} // namespace

Result<std::shared_ptr<pugi::xml_document>> svg_tree(std::string_view bytes) {
  Result<std::string> plain = packed(bytes) ? unpacked(bytes) : Result<std::string>(std::string());
  if (!plain)
    return plain.error();
  auto out = std::make_shared<pugi::xml_document>();
  if (const Result<Done> read = TreeMaker(*out).read(plain->empty() ? bytes : std::string_view(*plain)); !read)
    return read.error();
  return out;
}

} // namespace frelm
