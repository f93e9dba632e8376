#include "cli/open_job.h"

#include "document/job_file.h"
#include "formats/job_svg.h"

namespace frelm {

Result<OpenJob> open_job(const std::string& path, CommandContext& context) {
  const Result<std::string> bytes = context.storage.read(path);
  if (!bytes)
    return bytes.error();
  const std::optional<JobInSvg> inside = job_in_svg(*bytes);
  Result<Document> document = read_job(inside ? inside->job : *bytes);
  if (!document)
    return at_place(document.error(), path);
  if (inside && inside->drawing_changed)
    context.err << path << ": the drawing was changed by another program; this is the job as it was saved\n";
  OpenJob job{std::move(*document), std::make_unique<FaceLibrary>(data_directory("faces"), true)};
  if (job.document.carried)
    job.faces->set_carried(*job.document.carried);
  return job;
}

Result<Colour> colour_of(const std::string& material, const Document& document) {
  for (const Material& m : document.materials)
    if (m.name == material)
      return m.colour;
  const Result<Colour> colour = colour_from_hex(material);
  if (!colour)
    return misuse("no material of this job, and no colour like #9b2f45", "--sheet");
  return *colour;
}

Result<Drawing> read_drawing_file(const std::string& path, CommandContext& context, const DrawingReadOptions& options) {
  const Result<std::string> bytes = context.storage.read(path);
  return bytes ? read_drawing_bytes(path, *bytes, context, options) : Result<Drawing>(bytes.error());
}

Result<Drawing> read_drawing_bytes(const std::string& path, const std::string& bytes, CommandContext& context,
                                   const DrawingReadOptions& options) {
  Result<Drawing> drawing = read_drawing(bytes, options);
  if (!drawing)
    return at_place(drawing.error(), path);
  if (const Result<Done> shows = shows_something(*drawing); !shows)
    return at_place(shows.error(), path);
  if (!drawing->left_out.empty())
    context.err << path << ": not taken: " << in_one_line(drawing->left_out) << "\n";
  return std::move(*drawing);
}

} // namespace frelm
