#include "formats/page_content.h"

#include <fmt/format.h>
#define POINTERHOLDER_TRANSITION 4 // std::shared_ptr throughout
#include <qpdf/QPDF.hh>
#include <qpdf/QPDFPageDocumentHelper.hh>
#include <qpdf/QPDFWriter.hh>

namespace frelm {
namespace {

constexpr double largest_page = 14'400; // points

QPDFObjectHandle real(double v) {
  return QPDFObjectHandle::newReal(v, 4);
}

// A tint of 0 is white, of 1 the colour.
QPDFObjectHandle spot_space(QPDF& pdf, const std::string& name, Colour c) {
  auto tint = QPDFObjectHandle::parse("<< /FunctionType 2 /Domain [0 1] /N 1 /C0 [1 1 1] >>");
  tint.replaceKey("/C1", QPDFObjectHandle::newArray({real(c.r / 255.0), real(c.g / 255.0), real(c.b / 255.0)}));
  return pdf.makeIndirectObject(
      QPDFObjectHandle::newArray({QPDFObjectHandle::newName("/Separation"), QPDFObjectHandle::newName("/" + name),
                                  QPDFObjectHandle::newName("/DeviceRGB"), tint}));
}

} // namespace

Result<std::string> write_pdf(const std::vector<DrawnPage>& pages, const std::vector<std::string>& layers,
                              const std::string& spot) {
  for (const DrawnPage& page : pages) {
    const double width = page.frame.width() * points_per_mm, height = page.frame.height() * points_per_mm;
    if (!(width > 0 && width <= largest_page && height > 0 && height <= largest_page))
      return bad_input(FRELM_WORDS("core", "the sheet is too large for this format, which ends at 5 m; write "
                                           "an SVG or DXF file, or make the sheet smaller"),
                       FRELM_WORDS("core", "PDF"));
  }
  try {
    QPDF pdf;
    pdf.emptyPDF();
    auto resources = QPDFObjectHandle::newDictionary();
    if (!layers.empty()) {
      auto groups = QPDFObjectHandle::newArray(), properties = QPDFObjectHandle::newDictionary();
      for (std::size_t i = 0; i < layers.size(); ++i) {
        auto group = QPDFObjectHandle::parse("<< /Type /OCG >>");
        group.replaceKey("/Name", QPDFObjectHandle::newUnicodeString(layers[i]));
        group = pdf.makeIndirectObject(group);
        groups.appendItem(group);
        properties.replaceKey("/L" + std::to_string(i), group);
      }
      auto shown = QPDFObjectHandle::newDictionary(), content = QPDFObjectHandle::newDictionary();
      shown.replaceKey("/Order", groups.shallowCopy());
      content.replaceKey("/OCGs", groups);
      content.replaceKey("/D", shown);
      pdf.getRoot().replaceKey("/OCProperties", content);
      pdf.getRoot().replaceKey("/Version", QPDFObjectHandle::newName("/1.5"));
      resources.replaceKey("/Properties", properties);
    }
    PageWords words;
    if (!layers.empty()) {
      words.begin_layer = [](std::size_t i) { return fmt::format("/OC /L{} BDC\n", i); };
      words.end_layer = "EMC\n";
    }
    words.spot_fill = "/Spot cs 1 scn\n", words.spot_line = "/Spot CS 1 SCN\n";
    for (const DrawnPage& page : pages)
      for (const PageItem& item : page.items)
        if (item.spot && !resources.hasKey("/ColorSpace")) {
          auto spaces = QPDFObjectHandle::newDictionary();
          spaces.replaceKey("/Spot", spot_space(pdf, spot, item.colour));
          resources.replaceKey("/ColorSpace", spaces);
        }
    resources = pdf.makeIndirectObject(resources);
    for (const DrawnPage& page : pages) {
      auto made = QPDFObjectHandle::parse("<< /Type /Page >>");
      made.replaceKey("/MediaBox",
                      QPDFObjectHandle::newArray({real(0), real(0), real(page.frame.width() * points_per_mm),
                                                  real(page.frame.height() * points_per_mm)}));
      made.replaceKey("/Resources", resources);
      made.replaceKey("/Contents", QPDFObjectHandle::newStream(&pdf, page_content(page, words)));
      QPDFPageDocumentHelper(pdf).addPage(QPDFPageObjectHelper(pdf.makeIndirectObject(made)), false);
    }
    QPDFWriter writer(pdf);
    writer.setOutputMemory();
    writer.setDeterministicID(true);
    writer.setMinimumPDFVersion("1.5");
    writer.write();
    const std::shared_ptr<Buffer> bytes = writer.getBufferSharedPointer();
    return std::string(reinterpret_cast<const char*>(bytes->getBuffer()), bytes->getSize());
  } catch (const std::exception& e) {
    return Error{ErrorCode::Internal, as_it_is(e.what()), FRELM_WORDS("core", "PDF")};
  }
}

Result<std::string> write_pdf(const CutPlan& plan, const PageOptions& options) {
  std::vector<std::string> layers;
  for (const PlanLayer& l : plan.layers)
    layers.push_back(l.name);
  return write_pdf(pages_of(plan, options), layers, options.spot);
}

} // namespace frelm
