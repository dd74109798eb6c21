#include "cinnabar/devices/hand_meter.h"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/scene/staged.h"

namespace cinnabar {
namespace {

constexpr std::size_t longest_asked = 400;
constexpr double darkest_lux = 0.01;  // what a meter still shows
constexpr double farthest = 1e4;      // metres

}  // namespace

Expected<Project> otherwise(const Project& project, const Shot& shot, const MeterSettings& settings) {
  Project other = project;
  const Setup* setup = by_id(project.setups, shot.setup);
  if (!setup) return fail("the shot", "has no set-up", "give one that has");
  auto changed = std::make_shared<Setup>(*setup);
  const auto lamp = [&](const std::string& id) -> Light* {
    for (Light& light : changed->lights)
      if (light.id == id) return &light;
    return nullptr;
  };
  for (const auto& [id, factor] : settings.factors) {
    Light* light = lamp(id);
    if (!light) return fail("--factor " + id, "is no light of this set-up", "name one of it");
    light->lumens *= factor;
  }
  for (const auto& [id, degrees] : settings.beams) {
    Light* light = lamp(id);
    if (!light) return fail("--beam " + id, "is no light of this set-up", "name one of it");
    light->grid_deg = degrees;
  }
  changed->ambient_lx += settings.bounce_lx;
  for (auto& one : other.setups)
    if (one.get() == setup) one = changed;
  return other;
}

SimulatedMeter::SimulatedMeter(const Project& project, const Shot& shot, double set_time,
                               const MeterSettings& settings)
    : world_(std::make_shared<const StagedWorld>(stage(project, shot, set_time, {.motion = false}))),
      tracer_(std::make_unique<const Tracer>(world_)),
      error_(settings.error),
      chance_(settings.seed) {}

std::string SimulatedMeter::answer(std::string_view line) {
  if (line.size() > longest_asked) return "error line: is too long; say one thing a line";
  std::vector<std::string> words;
  for (const std::string& word : split(std::string(line), ' '))
    if (!word.empty()) words.push_back(word);
  if (words.empty()) return "error line: is empty; say hello, hold, read or put-down";
  if (words[0] == "hello") return "ok meter 1 lux kelvin";
  if (words[0] == "hold") return hold(words);
  if (words[0] == "read") return read();
  if (words[0] == "put-down") return held_.reset(), "ok";
  return "error line: is nothing that a meter does; say hello, hold, read or put-down";
}

std::string SimulatedMeter::hold(const std::vector<std::string>& words) {
  std::array<double, 6> numbers{};
  bool good = words.size() == 7;
  for (std::size_t i = 0; good && i < numbers.size(); ++i) {
    const auto v = parse_number(words[i + 1]);
    good = v && std::abs(*v) <= farthest;
    if (good) numbers[i] = *v;
  }
  const Vec3 normal{numbers[3], numbers[4], numbers[5]};
  if (!good || length(normal) < 1e-9)
    return "error hold: wants a place and where it faces; say hold X Y Z NX NY NZ, metres";
  held_ = Held{{numbers[0], numbers[1], numbers[2]}, unit(normal)};
  return "ok";
}

std::string SimulatedMeter::read() {
  if (!held_) return "error read: it is held nowhere; say hold X Y Z NX NY NZ first";
  const Reading reading = held_meter(*tracer_, held_->at, held_->normal);
  const double off = error_ > 0.0 ? std::normal_distribution(0.0, error_)(chance_) : 0.0;
  const double lux = std::max(0.0, reading.total() * (1.0 + off));
  const auto kelvin = white_of(reading, *world_);
  if (lux < darkest_lux || !kelvin) return "ok 0 0";
  return fmt::format("ok {} {:.0f}", number_text(lux, 6), *kelvin);
}

}  // namespace cinnabar
