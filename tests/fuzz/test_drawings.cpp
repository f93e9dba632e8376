// The drawings of the tests cut short, with bytes changed, stretches repeated, two of them crossed, through the same
// code as fuzz_drawings: in every build, under the address and undefined-behaviour checks too.
#include "support/fixtures.h"

#include <QDir>
#include <QElapsedTimer>
#include <QFile>
#include <QTest>

using namespace frelm::test;

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size);

class TestDrawings : public QObject {
  Q_OBJECT

private slots:
  void initTestCase() {
    const QDir dir(FRELM_SOURCE_DIR "/tests/formats/drawings");
    for (const QString& name : dir.entryList({"*.svg", "*.dxf", "*.plt"})) {
      QFile file(dir.filePath(name));
      QVERIFY(file.open(QIODevice::ReadOnly));
      inputs_ << file.readAll();
    }
    QVERIFY(inputs_.size() > 200);
  }

  void cut_short() {
    auto random = random_source(31);
    for (const QByteArray& whole : inputs_)
      for (int i = 0; i < 6; ++i)
        run(whole.left(static_cast<qsizetype>(random() % static_cast<std::uint64_t>(whole.size() + 1))));
  }

  void changed() {
    auto random = random_source(32);
    const auto pick = [&](qsizetype n) { return static_cast<qsizetype>(random() % static_cast<std::uint64_t>(n)); };
    const int rounds = qEnvironmentVariable("FRELM_REPLAY_RUNS", sanitized ? "600" : "6000").toInt();
    const QByteArray digits = "0123456789.-e%";
    for (int i = 0; i < rounds; ++i) {
      QByteArray bytes = inputs_[pick(inputs_.size())];
      const QByteArray& other = inputs_[pick(inputs_.size())];
      if (i % 5 == 0)
        bytes = bytes.left(pick(bytes.size() + 1)) + other.mid(pick(other.size() + 1));
      if (i % 7 == 0 && bytes.size() > 8) {
        const qsizetype from = pick(bytes.size() - 4);
        bytes.insert(from, bytes.mid(from, pick(40)).repeated(1 + i % 4));
      }
      for (int k = 0; k < 1 + i % 5 && !bytes.isEmpty(); ++k) // mostly what still is a number or a word
        bytes[pick(bytes.size())] = i % 2 == 0 ? digits[pick(digits.size())] : static_cast<char>(random() % 96 + 32);
      run(bytes);
    }
  }

private:
  static void run(const QByteArray& bytes) {
    LLVMFuzzerTestOneInput(reinterpret_cast<const std::uint8_t*>(bytes.constData()),
                           static_cast<std::size_t>(bytes.size()));
  }
  QList<QByteArray> inputs_;
};

QTEST_APPLESS_MAIN(TestDrawings)
#include "test_drawings.moc"
