// cinnabar-motion: a motion controller to try a move on before there is one.
#include <CLI/CLI.hpp>
#include <atomic>
#include <csignal>
#include <iostream>

#include "cinnabar/devices/line_server.h"
#include "cinnabar/devices/motion_machine.h"
#include "numbers.h"

namespace {

std::atomic<bool> ending{false};

}  // namespace

int main(int argc, char** argv) {
  using namespace cinnabar;
  CLI::App app("A stand-in for a motion controller. It moves nothing but numbers.", "cinnabar-motion");
  std::string socket = socket_folder() + "/cinnabar-motion";
  MotionSettings settings;
  app.add_option("--socket", socket, "Path of the local socket that it serves")->capture_default_str();
  app.add_option("--step", settings.step, "Smallest step, mm or degrees")
      ->check(up_to(10.0))
      ->capture_default_str();
  app.add_option("--backlash", settings.backlash, "Play where an axis turns back, mm or degrees")
      ->check(up_to(10.0))
      ->capture_default_str();
  app.add_option("--lag", settings.lag, "Seconds that it follows behind")
      ->check(up_to(1.0))
      ->capture_default_str();
  try {
    app.parse(argc, argv);
  } catch (const CLI::ParseError& error) {
    return app.exit(error) == 0 ? 0 : 2;
  }
  for (const int signal : {SIGINT, SIGTERM}) std::signal(signal, [](int) { ending = true; });
  SimulatedMotion machine(settings);
  const auto served = serve_lines({.socket = socket,
                                   .answer = [&](std::string_view line) { return machine.answer(line); },
                                   .tick = [&](double seconds) { return machine.advance(seconds); },
                                   .left = [&] { machine.left(); },
                                   .ready = [&] { std::cout << "listening at " << socket << std::endl; }},
                                  ending);
  if (served) return 0;
  std::cerr << served.error().text() << "\n";
  return exit_code(served.error());
}
