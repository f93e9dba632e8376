// A face made of pixels (Glyph Bitmap Distribution Format 2.1, Adobe 1993) as the only one that fontconfig finds, while
// it lives.
#pragma once

#include <QFile>
#include <QTemporaryDir>

namespace frelm::test {

class PixelFace {
public:
  static constexpr const char* family = "Creek Dots";
  PixelFace() : before_(qgetenv("FONTCONFIG_FILE")) {
    write("dots.bdf", "STARTFONT 2.1\nFONT -frelm-Creek Dots-Medium-R-Normal--8-80-75-75-C-80-ISO10646-1\n"
                      "SIZE 8 75 75\nFONTBOUNDINGBOX 8 8 0 0\nSTARTPROPERTIES 4\nFAMILY_NAME \"Creek Dots\"\n"
                      "WEIGHT_NAME \"Medium\"\nFONT_ASCENT 8\nFONT_DESCENT 0\nENDPROPERTIES\nCHARS 1\n"
                      "STARTCHAR H\nENCODING 72\nSWIDTH 1000 0\nDWIDTH 8 0\nBBX 8 8 0 0\nBITMAP\n"
                      "C3\nC3\nC3\nFF\nFF\nC3\nC3\nC3\nENDCHAR\nENDFONT\n");
    write("fonts.conf", "<?xml version=\"1.0\"?><!DOCTYPE fontconfig SYSTEM \"fonts.dtd\"><fontconfig><dir>" +
                            dir_.path().toUtf8() + "</dir><cachedir>" + dir_.path().toUtf8() +
                            "/cache</cachedir></fontconfig>");
    qputenv("FONTCONFIG_FILE", dir_.filePath("fonts.conf").toUtf8());
  }
  ~PixelFace() {
    if (before_.isNull())
      qunsetenv("FONTCONFIG_FILE");
    else
      qputenv("FONTCONFIG_FILE", before_);
  }
  PixelFace(const PixelFace&) = delete;
  PixelFace& operator=(const PixelFace&) = delete;

private:
  void write(const char* name, const QByteArray& bytes) {
    QFile file(dir_.filePath(name));
    if (file.open(QFile::WriteOnly))
      file.write(bytes);
  }
  QTemporaryDir dir_;
  QByteArray before_;
};

} // namespace frelm::test
