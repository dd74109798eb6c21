// Commands that trace light: meter and render.
#include <fmt/format.h>

#include <algorithm>
#include <chrono>
#include <cmath>
#include <tuple>

#include "cinnabar/base/text.h"
#include "cinnabar/cli/commands.h"
#include "cinnabar/formats/pictures.h"
#include "cinnabar/project/model/entities.h"
#include "cinnabar/render/meter.h"
#include "cinnabar/render/speckles.h"

namespace cinnabar {
Expected<double> number_argument(const std::string& name, const std::string& text, double low, double high) {
  const auto v = parse_number(text);
  if (!v || *v < low || *v > high)
    return fail(name + " " + text, "is out of range", fmt::format("give a number from {:g} to {:g}", low, high));
  return *v;
}

Expected<std::pair<int, int>> size_argument(const std::string& name, const std::string& text) {
  const auto parts = split(text, 'x');
  const auto w = parts.size() == 2 ? parse_number(parts[0]) : std::nullopt,
             h = parts.size() == 2 ? parse_number(parts[1]) : std::nullopt;
  if (!w || !h || *w != std::floor(*w) || *h != std::floor(*h) || *w < 1 || *h < 1 || *w > 8192 || *h > 8192)
    return fail(name + " " + text, "is no size", "give WIDTHxHEIGHT, each from 1 to 8192");
  return std::pair(static_cast<int>(*w), static_cast<int>(*h));
}

namespace {

using Out = nlohmann::ordered_json;

Expected<Vec3> point_argument(const std::string& name, const std::string& text) {
  const auto three = parse_three(text);
  if (!three || std::any_of(three->begin(), three->end(), [](double v) { return std::abs(v) > 1e4; }))
    return fail(name + " " + text, "is no X,Y,Z", "give three numbers between commas, in metres");
  return Vec3{(*three)[0], (*three)[1], (*three)[2]};
}

/// Stages the shot that was asked for at the time that was asked for.
Expected<StagedWorld> staged(const std::string& file, const std::string& shot_text, const std::string& at_text) {
  const auto in = opened(file);
  if (!in) return tl::unexpected(in.error());
  const auto number = shot_numbered(in->project, shot_text);
  if (!number) return tl::unexpected(number.error());
  const Shot& shot = *in->project.shots[*number];
  const auto at = number_argument("--at", at_text, 0.0, shot.set_time() * (1 + 1e-9) + 1e-9);
  if (!at) return tl::unexpected(at.error());
  return stage(in->project, shot, *at);
}

bool known_layer(const StagedWorld& world, const std::string& id) {
  if (id.empty() || id == "ambient") return true;
  for (const StagedLight& l : world.lights)
    if (l.id == id) return true;
  return false;
}
Error no_light(const std::string& option, const StagedWorld& world, const std::string& id) {
  std::string all;
  for (const StagedLight& l : world.lights) all += l.id + ", ";
  return {option + " " + id, "is no light of this set-up", "give one of " + all + "ambient"};
}

}  // namespace

int meter_command(const Answer& answer, const MeterArguments& a) {
  const auto point = point_argument("--point", a.point), normal = point_argument("--normal", a.normal);
  if (!point) return answer.refuse(point.error());
  if (!normal) return answer.refuse(normal.error());
  if (length(*normal) < 1e-9)
    return answer.refuse({"--normal " + a.normal, "has no direction", "give a vector that is not zero"});
  auto world = staged(a.file, a.shot, a.at);
  if (!world) return answer.refuse(world.error());
  if (!known_layer(*world, a.solo)) return answer.refuse(no_light("--solo", *world, a.solo));
  const auto shared = std::make_shared<const StagedWorld>(std::move(*world));
  const Reading reading = illuminance(Tracer(shared), *point, *normal);
  Out by_light = Out::object();
  double total = 0.0;
  const auto count = [&](const std::string& id, double lux) {
    const double counted = a.solo.empty() || a.solo == id ? lux : 0.0;
    by_light[id] = counted;
    total += counted;
    answer.say(fmt::format("{:>12} lx  {}", number_text(counted, 5), id));
  };
  for (std::size_t i = 0; i < reading.by_light.size(); ++i) count(shared->lights[i].id, reading.by_light[i]);
  count("ambient", reading.ambient);
  answer.say(fmt::format("{:>12} lx  in all; a perfect white there has {} cd/m2", number_text(total, 5),
                         number_text(total / pi, 5)));
  answer.give({{"illuminance_lx", total}, {"by_light", by_light}, {"luminance", total / pi}});
  return 0;
}

int render_command(const Answer& answer, const RenderArguments& a) {
  const bool png = a.out.ends_with(".png"), exr = a.out.ends_with(".exr");
  if (!png && !exr) return answer.refuse({"--out " + a.out, "is neither PNG nor EXR", "end it in .png or .exr"});
  const auto passes = number_argument("--passes", a.passes, 1, 65536);
  if (!passes) return answer.refuse(passes.error());
  auto world = staged(a.file, a.shot, a.at);
  if (!world) return answer.refuse(world.error());
  if (!known_layer(*world, a.layer) && !(world->screens && a.layer == "screens"))
    return answer.refuse(no_light("--layer", *world, a.layer));
  int width = 960, height = std::max(1, static_cast<int>(std::lround(960 * world->camera.optics.sensor_height /
                                                                     world->camera.optics.sensor_width)));
  if (!a.size.empty()) {
    const auto size = size_argument("--size", a.size);
    if (!size) return answer.refuse(size.error());
    std::tie(width, height) = *size;
    // Another shape than the recording's shows the full width, and more or less above and below.
    world->camera.optics.sensor_height = world->camera.optics.sensor_width * height / width;
  }
  const auto shared = std::make_shared<const StagedWorld>(std::move(*world));
  const auto start = std::chrono::steady_clock::now();
  const Tracer tracer(shared);
  Film film = tracer.film(width, height, Caustics::by_photons);
  const LayerWeights weights = layer_weights(*shared, a.layer);
  const int half = static_cast<int>(*passes) / 2;
  Picture first;
  for (int pass = 0; pass < static_cast<int>(*passes); ++pass) {
    if (pass > 0 && pass == half) first = mixed(film, weights);
    if (!tracer.add_pass(film)) return answer.refuse({"render", "was stopped", "", Fault::output});
  }
  const double seconds = std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
  Picture picture = mixed(film, weights);
  const auto error = relative_error(picture, film.passes, first, half);
  const std::vector<Speckle> bright =
      speckles(picture, film);  // spread alike in all layers: they sum to the whole
  spread(picture, film, bright);
  std::vector<PictureLayer> layers;
  if (exr && a.layer.empty()) {
    const auto add = [&](const std::string& name) {
      layers.push_back({name, mixed(film, layer_weights(*shared, name))});
      spread(layers.back().picture, film, bright);
    };
    for (const StagedLight& light : shared->lights) add(light.id);
    add("ambient");
    if (shared->screens) add("screens");
  }
  const auto written =
      png ? write_png(a.out, width, height, developed(picture, signal_per_luminance(shared->camera)))
          : write_exr(a.out, picture, layers);
  if (!written) return answer.refuse(written.error());
  answer.say(fmt::format("{}: {} passes, {} million rays in {} s{}", a.out, film.passes,
                         number_text(static_cast<double>(tracer.rays()) / 1e6, 3), number_text(seconds, 3),
                         error
                             ? fmt::format("; the middle pixel is sure within {} %", number_text(100 * *error, 2))
                             : std::string()));
  answer.give({{"rays", tracer.rays()},
               {"seconds", seconds},
               {"passes", film.passes},
               {"error", error ? Out(*error) : Out(nullptr)}});
  return 0;
}

}  // namespace cinnabar
