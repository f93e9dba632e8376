// Heavy work off the interface thread: welds, gaps, the Cut check. Only the newest request counts; an older one still
// running is told to stop.
#pragma once

#include "app/session/newest_worker.h"
#include "cutting/check.h"
#include "lettering/gaps.h"

#include <functional>
#include <map>

namespace frelm {

enum class WorkDepth { GapsOnly, Everything };

struct WorkResults {
  std::uint64_t revision = 0; // of the document these belong to
  WorkDepth depth = WorkDepth::Everything;
  struct PieceWork {
    std::shared_ptr<const SeatedText> seated; // what it was made from; null for drawn outlines
    Finish finish;
    std::shared_ptr<const Outline> outline;
    std::shared_ptr<const Finished> finished;
    std::shared_ptr<const std::vector<Gap>> gaps;
  };
  std::map<PieceId, PieceWork> pieces;
  CheckReport check;
  std::vector<MaterialUse> materials;
};

class Background {
public:
  // Both are called on the worker's thread; progress with the revision and the share done of a lettering's evening.
  Background(const DocumentEvaluator& evaluator, std::function<void(WorkResults)> deliver,
             std::function<void(std::uint64_t, double)> progress);
  // gaps_of: the lettering whose gaps are wanted, 0 for none.
  void request(Document document, std::uint64_t revision, WorkDepth depth, PieceId gaps_of);
  // Tells running work to stop and forgets what waits.
  void stop() { worker_.stop(); }

private:
  struct Request {
    Document document;
    std::uint64_t revision = 0;
    WorkDepth depth = WorkDepth::Everything;
    PieceId gaps_of = 0;
  };
  WorkResults work(const Request& request, const std::stop_token& stop) const;

  const DocumentEvaluator& evaluator_;
  std::function<void(WorkResults)> deliver_;
  std::function<void(std::uint64_t, double)> progress_;
  NewestWorker worker_; // the last member: its thread ends before what it uses
};

} // namespace frelm
