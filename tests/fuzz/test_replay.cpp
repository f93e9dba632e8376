// The inputs that clang's fuzzer found worth keeping, and changes of them, through the same code as fuzz_geometry: in
// every build, under the address and undefined-behaviour checks too. What breaks aborts, and says what.
#include "support/fixtures.h"

#include <QFile>
#include <QTest>

using namespace frelm::test;

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size);

class TestReplay : public QObject {
  Q_OBJECT

private slots:
  void initTestCase() {
    QFile file(FRELM_SOURCE_DIR "/tests/fuzz/corpus.txt");
    QVERIFY(file.open(QIODevice::ReadOnly));
    while (!file.atEnd())
      if (const QByteArray line = file.readLine().trimmed(); !line.isEmpty())
        inputs_.push_back(QByteArray::fromHex(line));
    QVERIFY(inputs_.size() > 100);
  }

  void what_was_learnt() {
    constexpr qsizetype step = sanitized ? 2 : 1; // half of it where every step takes ten times as long
    for (qsizetype i = 0; i < inputs_.size(); i += step)
      run(inputs_[i]);
  }

  // A byte changed, two inputs crossed, a stretch repeated.
  void and_changes_of_it() {
    auto random = random_source(271);
    const auto pick = [&](qsizetype n) { return static_cast<qsizetype>(random() % static_cast<std::uint64_t>(n)); };
    const int rounds = qEnvironmentVariable("FRELM_REPLAY_RUNS", sanitized ? "300" : "4000").toInt();
    for (int i = 0; i < rounds; ++i) {
      QByteArray bytes = inputs_[pick(inputs_.size())];
      const QByteArray& other = inputs_[pick(inputs_.size())];
      if (i % 3 == 0)
        bytes = bytes.left(pick(bytes.size() + 1)) + other.mid(pick(other.size() + 1));
      for (int k = 0; k < 1 + i % 4 && !bytes.isEmpty(); ++k)
        bytes[pick(bytes.size())] = static_cast<char>(random());
      run(bytes.left(160));
    }
  }

private:
  static void run(const QByteArray& bytes) {
    LLVMFuzzerTestOneInput(reinterpret_cast<const std::uint8_t*>(bytes.constData()),
                           static_cast<std::size_t>(bytes.size()));
  }
  QList<QByteArray> inputs_;
};

QTEST_APPLESS_MAIN(TestReplay)
#include "test_replay.moc"
