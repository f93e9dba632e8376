#include "formats/pdf_file.h"

#define POINTERHOLDER_TRANSITION 4 // std::shared_ptr throughout
#include <qpdf/QPDF.hh>
#include <qpdf/QPDFPageDocumentHelper.hh>
#include <qpdf/QPDFWriter.hh>

namespace frelm {
namespace {

QPDFObjectHandle real(double v) {
  return QPDFObjectHandle::newReal(v, 4);
}

// A tint of 0 is white, of 1 the colour.
QPDFObjectHandle spot_space(QPDF& pdf, const PdfSpot& spot) {
  auto tint = QPDFObjectHandle::parse("<< /FunctionType 2 /Domain [0 1] /N 1 /C0 [1 1 1] >>");
  tint.replaceKey("/C1", QPDFObjectHandle::newArray({real(spot.r), real(spot.g), real(spot.b)}));
  return pdf.makeIndirectObject(
      QPDFObjectHandle::newArray({QPDFObjectHandle::newName("/Separation"), QPDFObjectHandle::newName("/" + spot.name),
                                  QPDFObjectHandle::newName("/DeviceRGB"), tint}));
}

void add_layers(QPDF& pdf, QPDFObjectHandle& resources, const std::vector<std::string>& layers) {
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

} // namespace

std::string pdf_file(const std::vector<PdfPage>& pages, const std::vector<std::string>& layers,
                     const std::optional<PdfSpot>& spot) {
  QPDF pdf;
  pdf.emptyPDF();
  auto resources = QPDFObjectHandle::newDictionary();
  if (!layers.empty())
    add_layers(pdf, resources, layers);
  if (spot) {
    auto spaces = QPDFObjectHandle::newDictionary();
    spaces.replaceKey("/Spot", spot_space(pdf, *spot));
    resources.replaceKey("/ColorSpace", spaces);
  }
  resources = pdf.makeIndirectObject(resources);
  for (const PdfPage& page : pages) {
    auto made = QPDFObjectHandle::parse("<< /Type /Page >>");
    made.replaceKey("/MediaBox", QPDFObjectHandle::newArray({real(0), real(0), real(page.width), real(page.height)}));
    made.replaceKey("/Resources", resources);
    made.replaceKey("/Contents", QPDFObjectHandle::newStream(&pdf, page.content));
    QPDFPageDocumentHelper(pdf).addPage(QPDFPageObjectHelper(pdf.makeIndirectObject(made)), false);
  }
  QPDFWriter writer(pdf);
  writer.setOutputMemory();
  writer.setDeterministicID(true);
  writer.setMinimumPDFVersion("1.5");
  writer.write();
  const std::shared_ptr<Buffer> bytes = writer.getBufferSharedPointer();
  return {reinterpret_cast<const char*>(bytes->getBuffer()), bytes->getSize()};
}

} // namespace frelm
