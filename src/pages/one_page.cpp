// The page tree is cut down to the one page, with what it inherits; then everything that can be reached from the page
// is walked once. Source: ISO 32000-1, Document management, Portable document format, 2008 (7.7.3 page tree, 8.9.5
// images, 11.3.5 blend modes, 9.8 font descriptors).
#include "pages/one_page.h"

#include <algorithm>
#define POINTERHOLDER_TRANSITION 4 // only std::shared_ptr
#include <qpdf/QPDF.hh>
#include <qpdf/QPDFPageDocumentHelper.hh>
#include <qpdf/QPDFWriter.hh>
#include <set>

namespace frelm::pages {
namespace {

std::string in_one_line(std::string words) {
  std::replace_if(
      words.begin(), words.end(), [](unsigned char c) { return c < ' '; }, ' ');
  return words;
}

class Walk {
public:
  explicit Walk(OnePage& out) : out_(out) {}
  void over(const QPDFObjectHandle& page) {
    ahead_.push_back(page);
    while (!ahead_.empty()) {
      QPDFObjectHandle at = ahead_.back();
      ahead_.pop_back();
      if (at.isIndirect() && !seen_.insert(at.getObjGen()).second)
        continue;
      if (at.isStream() && at.getDict().getKey("/Subtype").isNameAndEquals("/Image"))
        make_grey(at);
      else if (at.isStream())
        look_at(at.getDict());
      else if (at.isDictionary())
        look_at(at);
      else if (at.isArray())
        for (QPDFObjectHandle& one : at.getArrayAsVector())
          go_on(one);
    }
  }

private:
  void go_on(QPDFObjectHandle to) {
    if (to.isIndirect() || to.isDictionary() || to.isArray())
      ahead_.push_back(to);
  }

  void look_at(QPDFObjectHandle dictionary) {
    QPDFObjectHandle blend = dictionary.getKey("/BM");
    if (!blend.isNull()) {
      out_.effects += blend.isNameAndEquals("/Normal") || blend.isNameAndEquals("/Compatible") ? 0 : 1;
      dictionary.removeKey("/BM");
    }
    if (dictionary.getKey("/SMask").isDictionary())
      out_.soft_masks = true;
    if (dictionary.getKey("/Type").isNameAndEquals("/Font"))
      note_face(dictionary);
    for (const std::string& key : dictionary.getKeys())
      if (key != "/Parent" && key != "/P" && key != "/Dest" && key != "/A" && key != "/Popup" && key != "/FontFile" &&
          key != "/FontFile2" && key != "/FontFile3")
        go_on(dictionary.getKey(key));
  }

  void note_face(QPDFObjectHandle& font) {
    QPDFObjectHandle kind = font.getKey("/Subtype");
    if (kind.isNameAndEquals("/Type0") || kind.isNameAndEquals("/Type3"))
      return; // their parts are seen by themselves
    QPDFObjectHandle about = font.getKey("/FontDescriptor");
    if (about.isDictionary() && (about.hasKey("/FontFile") || about.hasKey("/FontFile2") || about.hasKey("/FontFile3")))
      return;
    QPDFObjectHandle name = font.getKey("/BaseFont");
    out_.other_faces.push_back(name.isName() ? in_one_line(name.getName().substr(1)) : "?");
  }

  static void make_grey(QPDFObjectHandle& picture) {
    const bool stencil =
        picture.getDict().getKey("/ImageMask").isBool() && picture.getDict().getKey("/ImageMask").getBoolValue();
    const char* grey =
        "<< /Type /XObject /Subtype /Image /Width 1 /Height 1 /ColorSpace /DeviceGray /BitsPerComponent 8 >>";
    const char* mask = "<< /Type /XObject /Subtype /Image /Width 1 /Height 1 /ImageMask true /BitsPerComponent 1 >>";
    picture.replaceDict(QPDFObjectHandle::parse(stencil ? mask : grey));
    picture.replaceStreamData(stencil ? std::string(1, '\0') : std::string("\x80"), QPDFObjectHandle::newNull(),
                              QPDFObjectHandle::newNull());
  }

  OnePage& out_;
  std::vector<QPDFObjectHandle> ahead_;
  std::set<QPDFObjGen> seen_;
};

} // namespace

Answer take_page(const std::string& pdf, int number, OnePage& out) {
  try {
    QPDF file;
    file.setSuppressWarnings(true);
    file.processMemoryFile("file", pdf.data(), pdf.size());
    std::vector<QPDFObjectHandle> pages = file.getAllPages();
    out.pages = static_cast<int>(pages.size());
    if (number < 1 || number > out.pages)
      return Answer::NoSuchPage;
    QPDFPageDocumentHelper(file).pushInheritedAttributesToPage();
    QPDFObjectHandle page = pages[static_cast<std::size_t>(number - 1)];
    if (QPDFObjectHandle unit = page.getKey("/UserUnit"); unit.isNumber())
      out.unit = unit.getNumericValue();
    QPDFObjectHandle root = file.getRoot();
    QPDFObjectHandle tree = root.getKey("/Pages");
    tree.replaceKey("/Kids", QPDFObjectHandle::newArray(std::vector<QPDFObjectHandle>{page}));
    tree.replaceKey("/Count", QPDFObjectHandle::newInteger(1));
    page.replaceKey("/Parent", tree);
    for (const char* not_painted : {"/Outlines", "/Dests", "/Names", "/StructTreeRoot", "/OpenAction", "/AA",
                                    "/Metadata", "/PageLabels", "/Threads"})
      root.removeKey(not_painted);
    Walk(out).over(page);
    std::sort(out.other_faces.begin(), out.other_faces.end());
    out.other_faces.erase(std::unique(out.other_faces.begin(), out.other_faces.end()), out.other_faces.end());
    QPDFWriter writer(file);
    writer.setOutputMemory();
    writer.setStreamDataMode(qpdf_s_preserve);
    writer.setObjectStreamMode(qpdf_o_disable);
    writer.setPreserveEncryption(false);
    writer.write();
    const std::shared_ptr<Buffer> bytes = writer.getBufferSharedPointer();
    out.pdf.assign(reinterpret_cast<const char*>(bytes->getBuffer()), bytes->getSize());
    if (const std::vector<QPDFExc> warnings = file.getWarnings(); !warnings.empty())
      out.damage = in_one_line(warnings.front().getMessageDetail());
    return Answer::Done;
  } catch (const QPDFExc& error) {
    if (error.getErrorCode() == qpdf_e_password)
      return Answer::Locked;
    out.damage = in_one_line(error.getMessageDetail());
  } catch (const std::exception& error) {
    out.damage = in_one_line(error.what());
  }
  out.pdf = pdf;
  out.number = number;
  return Answer::Done;
}

} // namespace frelm::pages
