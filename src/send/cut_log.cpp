#include "send/cut_log.h"

#include <ctime>
#include <filesystem>
#include <nlohmann/json.hpp>
#include <sstream>

namespace frelm {
namespace {

using Json = nlohmann::ordered_json;

std::string line_of_entry(const CutLogEntry& e) {
  const Json json{{"when", e.when},     {"job", e.job},         {"material", e.material},
                  {"cutter", e.cutter}, {"paths", e.paths},     {"of", e.whole_paths},
                  {"cut_mm", e.cut},    {"seconds", e.seconds}, {"ended", e.ended}};
  return json.dump(-1, ' ', false, Json::error_handler_t::replace);
}

} // namespace

Result<std::vector<CutLogEntry>> read_cut_log(Storage& storage, const std::string& path) {
  std::error_code none;
  if (!std::filesystem::exists(path, none))
    return std::vector<CutLogEntry>{};
  const Result<std::string> bytes = storage.read(path);
  if (!bytes)
    return bytes.error();
  std::vector<CutLogEntry> out;
  std::istringstream lines(*bytes);
  for (std::string line; std::getline(lines, line);)
    try {
      const Json j = Json::parse(line);
      out.push_back({j.at("when"), j.at("job"), j.at("material"), j.at("cutter"), j.at("paths"), j.at("of"),
                     j.at("cut_mm"), j.at("seconds"), j.at("ended")});
    } catch (const Json::exception&) {
      continue; // half a line, or somebody else's
    }
  return out;
}

Result<Done> add_to_cut_log(Storage& storage, const std::string& path, const CutLogEntry& entry) {
  Result<std::vector<CutLogEntry>> log = read_cut_log(storage, path);
  if (!log)
    return log.error();
  log->push_back(entry);
  std::string bytes;
  for (std::size_t i = log->size() - std::min(log->size(), most_logged); i < log->size(); ++i)
    bytes += line_of_entry((*log)[i]) + "\n";
  return storage.write(path, bytes);
}

std::string time_now() {
  const std::time_t now = std::time(nullptr);
  std::tm local{};
  localtime_r(&now, &local);
  char text[32] = "";
  std::strftime(text, sizeof text, "%Y-%m-%dT%H:%M:%S%z", &local);
  return text;
}

CutLogEntry ended_now(CutLogEntry about, const SendReport& report, std::size_t whole_paths) {
  about.when = time_now(), about.paths = report.next, about.whole_paths = whole_paths;
  about.cut = report.cut, about.seconds = report.seconds;
  about.ended = report.stopped ? report.stopped->text() : report.handed_over ? "handed to a printer queue" : "";
  return about;
}

} // namespace frelm
