// What cinnabar-cli can be asked. Every command answers with an exit code and writes through Answer.
#pragma once
#include <nlohmann/json.hpp>
#include <string>
#include <vector>

#include "cinnabar/project/checks/validation.h"
#include "cinnabar/project/model/entities.h"
#include "cinnabar/project/store/store.h"

namespace cinnabar {

/// Collects an answer: text for people, JSON for scripts; only one of the two is written.
struct Answer {
  bool json = false;
  void say(const std::string& line) const;               ///< text, unless JSON is wanted
  void give(const nlohmann::ordered_json& value) const;  ///< JSON, when it is wanted
  [[nodiscard]] int refuse(const Error& error) const;    ///< to standard error; the exit code
  static void remark(const std::string& line);           ///< to standard error, beside the answer
};

/// A project read for a command; what of it is damaged is remarked on.
struct Opened {
  Document document;
  Project project;
};
[[nodiscard]] Expected<Opened> opened(const std::string& file);
[[nodiscard]] Expected<Opened> opened(const Store& store);
/// Index of the shot that --shot names.
[[nodiscard]] Expected<std::size_t> shot_numbered(const Project& project, const std::string& text);
/// A shot of a project that a command asks about, and may set something up in.
struct ShotAsked {
  std::unique_ptr<Store> store;
  Opened in;
  std::size_t shot;
};
[[nodiscard]] Expected<ShotAsked> shot_asked(const std::string& file, const std::string& shot, bool to_write);
/// Index of the answer that --take names, from 1 of `count`; `none` says why there is none.
[[nodiscard]] Expected<std::size_t> taken(const std::string& take, std::size_t count, const std::string& none);
[[nodiscard]] nlohmann::ordered_json maybe(const std::optional<double>& value);
[[nodiscard]] nlohmann::ordered_json faults_json(const std::vector<DocumentFault>& faults);

int demo_command(const Answer&, const std::string& out);
int info_command(const Answer&, const std::string& file);
int schema_command(const Answer&);
int validate_command(const Answer&, const std::string& file);
struct ForecastArguments {
  std::string file, shot, level, take;
};
int forecast_command(const Answer&, const ForecastArguments&);
int lever_command(const Answer&, const ForecastArguments&);
/// What is to be set at a POINTER, as typed: JSON, or text where it does not parse.
[[nodiscard]] Expected<Json> value_argument(const std::string& pointer, const std::string& value);
int set_command(const Answer&, const std::string& file, const std::string& pointer, const std::string& value);
int undo_command(const Answer&, const std::string& file, bool forward);
int versions_command(const Answer&, const std::string& file);
int keep_command(const Answer& answer, const std::string& file, const std::string& name);
int compare_command(const Answer& answer, const std::string& file, const std::string& number);
int back_command(const Answer& answer, const std::string& file, const std::string& number);
struct MeterArguments {
  std::string file, shot, point, normal, at = "0", solo;
};
int meter_command(const Answer&, const MeterArguments&);
struct PinsArguments {
  std::string file, shot, at = "0", light;
  bool take = false;
};
int pins_command(const Answer&, const PinsArguments&);
int calibrate_command(const Answer&, const PinsArguments&);
struct RenderArguments {
  std::string file, shot, out, at = "0", size, passes = "64", layer;
};
int render_command(const Answer&, const RenderArguments&);
struct AnimaticArguments {
  std::string file, out, size, rate, shot, passes = "1";
};
int animatic_command(const Answer&, const AnimaticArguments&);
/// WIDTHxHEIGHT, each from 1 to 8192.
[[nodiscard]] Expected<std::pair<int, int>> size_argument(const std::string& name, const std::string& text);
[[nodiscard]] Expected<double> number_argument(const std::string& name, const std::string& text, double low,
                                               double high);
int takes_command(const Answer&, const std::string& file, const std::string& shot);
struct ExportArguments {
  std::string file, format, shot, out;
};
int export_command(const Answer&, const ExportArguments&);
int import_command(const Answer&, const std::string& file, const std::string& in, const std::string& take);
struct MeshArguments {
  std::string file, mesh, unit, up, height, name;
  bool scaled = false;
};
int mesh_command(const Answer&, const MeshArguments&);
struct DraftArguments {
  std::string out, product, height, width, letters, kit, length, rate, tempo, mood, deliverable, seed, name;
};
int draft_command(const Answer&, const DraftArguments&);
struct StopsArguments {
  std::string file, shot, pin, take;
};
int stops_command(const Answer&, const StopsArguments&);
struct MethodArguments {
  std::string file, shot, name, take;
};
int method_command(const Answer&, const MethodArguments&);
/// Stands between the words of one --want and the next.
inline constexpr const char* wish_separator = "%%";
struct WishArguments {
  std::string file, shot, take;
  std::vector<std::string> want;
};
int wish_command(const Answer&, const WishArguments&);
int vary_command(const Answer&, const std::string& file, const std::string& shot, const std::string& name);
int touches_command(const Answer&, const std::string& file, const std::string& pointer, const std::string& value);
struct EffectsArguments {
  std::string file, shot, at;
};
int effects_command(const Answer&, const EffectsArguments&);
struct SolveArguments {
  std::string file, shot, kind, take;
  std::vector<std::string> words;
};
int solve_command(const Answer&, const SolveArguments&);
/// Changes of an answer: [{"pointer", "value"}], null where a member goes.
[[nodiscard]] nlohmann::ordered_json changes_json(const Values& changes);
int calc_command(const Answer&, const std::string& name, const std::vector<std::string>& words, bool list);

}  // namespace cinnabar
