// A hand that does anything: clicks, drags broken off, keys, every command, absurd values, paste, open, undo, on every
// example. What fails is told with its seed and the shortest list of steps that still fails.
// FRELM_HAND_RUNS=200 for long runs by hand (3,000 steps each), FRELM_HAND_SECONDS to stop beginning new ones after so
// many seconds.
#include "app/start.h"

#include <QDir>
#include <QElapsedTimer>
#include <QProcess>
#include <QTest>
#include <cstdio>

using namespace frelm;

namespace {

struct HandRun {
  bool well = false;
  QString told; // the last lines
  std::vector<std::uint64_t> steps;
};

HandRun run(const QString& example, std::uint64_t seed, std::uint64_t steps,
            const std::vector<std::uint64_t>& only = {}) {
  QProcess program;
  QStringList arguments{example, QString::number(seed), QString::number(steps)};
  if (!only.empty()) {
    QStringList list;
    for (const std::uint64_t i : only)
      list << QString::number(i);
    arguments << list.join(",");
  }
  if (!qEnvironmentVariableIsSet("FRELM_HAND_RUNS")) { // among other tests: only what hangs
    QProcessEnvironment with = QProcessEnvironment::systemEnvironment();
    with.insert("FRELM_HAND_STALL", "10");
    program.setProcessEnvironment(with);
  }
  program.setProcessChannelMode(QProcess::MergedChannels);
  program.start(FRELM_HAND_TARGET, arguments);
  constexpr int longest = 900'000; // ms
  HandRun out;
  if (!program.waitForFinished(longest)) {
    program.kill();
    program.waitForFinished();
  }
  const QString text = QString::fromUtf8(program.readAll());
  for (const QString& line : text.split('\n'))
    if (line.startsWith("step "))
      out.steps.push_back(line.mid(5).chopped(1).toULongLong());
  out.well = program.exitStatus() == QProcess::NormalExit && program.exitCode() == 0;
  out.told = text.right(out.well ? 120 : 3000).trimmed();
  return out;
}

// Ever smaller parts are left out as long as it still fails (Zeller and Hildebrandt, Simplifying and isolating
// failure-inducing input, IEEE Trans. Softw. Eng. 2002; without its second half).
HandRun shortest(const QString& example, std::uint64_t seed, HandRun failed) {
  int tries = 60;
  for (std::size_t part = std::max<std::size_t>(1, failed.steps.size() / 2); tries > 0;
       part = part > 1 ? part / 2 : 0) {
    if (part == 0)
      break;
    for (std::size_t from = 0; from < failed.steps.size() && tries > 0;) {
      std::vector<std::uint64_t> less = failed.steps;
      less.erase(less.begin() + static_cast<std::ptrdiff_t>(from),
                 less.begin() + static_cast<std::ptrdiff_t>(std::min(from + part, less.size())));
      --tries;
      HandRun again = less.empty() ? HandRun{true, {}, {}} : run(example, seed, 0, less);
      if (again.well)
        from += part;
      else
        failed = std::move(again);
    }
  }
  return failed;
}

} // namespace

class TestAnyHand : public QObject {
  Q_OBJECT

private slots:
  void nothing_breaks_whatever_the_hand_does() {
    const int asked = qEnvironmentVariableIntValue("FRELM_HAND_RUNS"),
              given = qEnvironmentVariableIntValue("FRELM_HAND_STEPS");
    const int seconds = qEnvironmentVariableIntValue("FRELM_HAND_SECONDS");
    QStringList examples = QDir(data_folder("demo")).entryList({"*.frelm"}, QDir::Files, QDir::Name);
    examples.prepend("-.frelm");
    const int runs = asked > 0 ? asked : static_cast<int>(examples.size());
    // 3,000 steps in all, spread over the examples; by hand 3,000 a run.
    const std::uint64_t steps = given > 0 ? std::uint64_t(given) : asked > 0 ? 3000 : 3000 / std::uint64_t(runs) + 1;
    const std::uint64_t first_seed = asked > 0 && qEnvironmentVariableIsSet("FRELM_HAND_SEED")
                                         ? qEnvironmentVariableIntValue("FRELM_HAND_SEED")
                                         : 20261127;
    QElapsedTimer clock;
    clock.start();
    for (int i = 0; i < runs && (seconds == 0 || clock.elapsed() < seconds * 1000); ++i) {
      const QString example = examples[i % examples.size()].chopped(6);
      const std::uint64_t seed = first_seed + std::uint64_t(i);
      HandRun done = run(example, seed, steps);
      if (!done.well) {
        done = shortest(example, seed, std::move(done));
        QStringList list;
        for (const std::uint64_t s : done.steps)
          list << QString::number(s);
        QFAIL(qPrintable(
            QString("example %1, seed %2, steps %3:\n%4").arg(example).arg(seed).arg(list.join(","), done.told)));
      }
      std::printf("%s %llu: %s\n", qPrintable(example), static_cast<unsigned long long>(seed),
                  qPrintable(done.told.split('\n').last()));
      std::fflush(stdout);
    }
  }
};

QTEST_GUILESS_MAIN(TestAnyHand)
#include "test_any_hand.moc"
