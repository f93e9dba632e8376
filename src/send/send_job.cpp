#include "send/send_job.h"

namespace frelm {

Result<ToSend> to_send(const Document& document, const DocumentEvaluator& evaluator, const SendChoice& choice,
                       const std::stop_token& stop) {
  Result<JobDriven> job = job_driven(document, evaluator, choice.what, stop);
  if (!job)
    return job.error();
  ToSend out;
  out.drive = std::move(job->drive);
  out.time = cut_time(out.drive.plan, document.materials);
  std::vector<HpglSpeed> speeds;
  for (const PlanLayer& layer : out.drive.plan.layers) {
    const Material* m = material_of(document.materials, layer.colour);
    speeds.push_back(m != nullptr ? HpglSpeed{m->tool.speed, m->tool.acceleration} : HpglSpeed{});
  }
  Result<HpglProgram> program = hpgl_program(out.drive.plan, choice.hpgl, speeds);
  if (!program)
    return program.error();
  out.program = std::move(*program);
  for (const HpglPath& p : out.program.paths)
    out.cut += p.cut;
  if (out.program.paths.empty())
    return bad_input(FRELM_WORDS("core", "nothing of the job is cut"), {});
  return out;
}

} // namespace frelm
