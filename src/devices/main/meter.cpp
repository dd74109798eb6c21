// cinnabar-meter: a hand meter to try readings on before there is a set.
#include <CLI/CLI.hpp>
#include <atomic>
#include <csignal>
#include <iostream>

#include "cinnabar/base/text.h"
#include "cinnabar/devices/hand_meter.h"
#include "cinnabar/devices/line_server.h"
#include "cinnabar/project/checks/validation.h"
#include "cinnabar/project/store/store.h"
#include "numbers.h"

namespace {

using namespace cinnabar;
std::atomic<bool> ending{false};

/// "ID=NUMBER" into a table.
Expected<bool> put(std::map<std::string, double>& table, const std::string& option, const std::string& text,
                   double low, double high) {
  const auto at = text.rfind('=');
  const auto value = at == std::string::npos ? std::nullopt : parse_number(text.substr(at + 1));
  if (!value || !(*value >= low && *value <= high) || at == 0)
    return fail(
        option + " " + text, "is no light with its number",
        "write " + option + " ID=NUMBER, the number from " + number_text(low) + " to " + number_text(high));
  table[text.substr(0, at)] = *value;
  return true;
}

int refuse(const Error& error) {
  std::cerr << error.text() << "\n";
  return exit_code(error);
}

}  // namespace

int main(int argc, char** argv) {
  CLI::App app("A stand-in for a hand meter, on the set of a project with what is otherwise there.",
               "cinnabar-meter");
  std::string file, socket = socket_folder() + "/cinnabar-meter";
  std::size_t number = 1;
  double at = 0.0;
  MeterSettings settings;
  std::vector<std::string> factors, beams;
  app.add_option("FILE", file, "The project")->required();
  app.add_option("--shot", number, "Number of the shot, from 1")->capture_default_str();
  app.add_option("--at", at, "Set seconds")->check(up_to(1e6))->capture_default_str();
  app.add_option("--socket", socket, "Path of the local socket that it serves")->capture_default_str();
  app.add_option("--factor", factors, "ID=F: the light gives F times what the project says");
  app.add_option("--beam", beams, "ID=DEGREES: its beam is so wide");
  app.add_option("--bounce", settings.bounce_lx, "Lux that the room throws back besides")
      ->check(up_to(1e5))
      ->capture_default_str();
  app.add_option("--error", settings.error, "Of one reading, percent")->check(up_to(50.0))->capture_default_str();
  app.add_option("--seed", settings.seed, "Of the errors")->capture_default_str();
  try {
    app.parse(argc, argv);
  } catch (const CLI::ParseError& error) {
    return app.exit(error) == 0 ? 0 : 2;
  }
  settings.error /= 100.0;
  for (const std::string& text : factors)
    if (const auto done = put(settings.factors, "--factor", text, 1e-3, 1e3); !done) return refuse(done.error());
  for (const std::string& text : beams)
    if (const auto done = put(settings.beams, "--beam", text, 1.0, 179.0); !done) return refuse(done.error());
  const auto document = read_document(file);
  if (!document) return refuse(document.error());
  ProjectReader reader;
  const Project project = reader.read(*document);
  if (number < 1 || number > project.shots.size())
    return refuse({"--shot " + std::to_string(number), "is no shot of the spot",
                   "give a number from 1 to " + std::to_string(project.shots.size())});
  const Shot& shot = *project.shots[number - 1];
  const auto other = otherwise(project, shot, settings);
  if (!other) return refuse(other.error());
  for (const int signal : {SIGINT, SIGTERM}) std::signal(signal, [](int) { ending = true; });
  SimulatedMeter meter(*other, shot, std::min(at, shot.set_time()), settings);
  const auto served = serve_lines({.socket = socket,
                                   .answer = [&](std::string_view line) { return meter.answer(line); },
                                   .tick = [](double) { return std::vector<std::string>{}; },
                                   .left = [&] { meter.left(); },
                                   .ready = [&] { std::cout << "listening at " << socket << std::endl; }},
                                  ending);
  return served ? 0 : refuse(served.error());
}
