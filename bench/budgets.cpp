// The budgets of docs/performance.md, measured on the demo project. Ratios are taken within one run.
#include <benchmark/benchmark.h>
#include <tbb/global_control.h>
#include <tbb/parallel_for.h>

#include <atomic>
#include <chrono>
#include <filesystem>
#include <map>

#include "cinnabar/forecast/forecast.h"
#include "cinnabar/forecast/purchases/acquisitions.h"
#include "cinnabar/formats/demo.h"
#include "cinnabar/photometry/sources.h"
#include "cinnabar/project/store/store.h"
#include "cinnabar/render/filter.h"
#include "cinnabar/render/first_look.h"
#include "cinnabar/render/meter.h"
#include "cinnabar/scene/effects_staged.h"
#include "cinnabar/takes/log.h"

using namespace cinnabar;

namespace {

namespace fs = std::filesystem;

/// The demo project in a folder of its own, made once.
const Document& demo() {
  static const Document document = [] {
    const fs::path file = fs::temp_directory_path() / "cinnabar-bench.cinnabar";
    fs::remove(file);
    if (const auto made = make_demo(file.string()); !made) throw std::runtime_error(made.error().text());
    auto read = read_document(file.string());
    fs::remove(file);
    if (!read) throw std::runtime_error(read.error().text());
    return *read;
  }();
  return document;
}

Project project_of(const Document& document) {
  ProjectReader reader;
  return reader.read(document);
}

std::shared_ptr<const StagedWorld> staged(const Project& project, std::size_t shot) {
  return std::make_shared<const StagedWorld>(stage(project, *project.shots[shot], 0.5));
}

double seconds_of(auto&& work) {
  const auto start = std::chrono::steady_clock::now();
  work();
  return std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
}

/// The tracer against Embree alone on the very same rays, one core, one run.
void tracer_against_embree(benchmark::State& state) {
  const Project project = project_of(demo());
  const Tracer tracer(staged(project, static_cast<std::size_t>(state.range(0))));
  std::vector<RayRecord> record;
  Film recorded = tracer.film(240, 135);
  (void)tracer.add_pass(recorded, nullptr, &record);
  const tbb::global_control one(tbb::global_control::max_allowed_parallelism, 1);
  double ours = 0, embree = 0;
  std::size_t met = 0;
  for (auto _ : state) {
    Film film = tracer.film(240, 135);
    ours += seconds_of([&] { (void)tracer.add_pass(film); });
    embree += seconds_of([&] {
      for (const RayRecord& r : record) met += tracer.geometry().raw(r) ? 1 : 0;
    });
  }
  benchmark::DoNotOptimize(met);
  state.counters["rays"] = static_cast<double>(record.size());
  state.counters["share_of_embree"] = embree / ours;
}
BENCHMARK(tracer_against_embree)->Arg(1)->Arg(3)->Arg(5)->Unit(benchmark::kMillisecond);

void two_cores_against_one(benchmark::State& state) {
  const Project project = project_of(demo());
  const Tracer tracer(staged(project, 1));
  double one_core = 0, two_cores = 0;
  for (auto _ : state) {
    {
      const tbb::global_control limit(tbb::global_control::max_allowed_parallelism, 1);
      Film film = tracer.film(480, 270);
      one_core += seconds_of([&] { (void)tracer.add_pass(film); });
    }
    Film film = tracer.film(480, 270);
    two_cores += seconds_of([&] { (void)tracer.add_pass(film); });
  }
  state.counters["times_faster"] = one_core / two_cores;
}
BENCHMARK(two_cores_against_one)->Unit(benchmark::kMillisecond);

/// What the window does after a light was moved: stage, build, trace the small picture, filter, develop.
void first_picture_of(benchmark::State& state, const Document& document) {
  const Project project = project_of(document);
  for (auto _ : state) {
    const auto began = std::chrono::steady_clock::now();
    const auto world = staged(project, 1);
    const Tracer tracer(world);
    const double so_far = std::chrono::duration<double>(std::chrono::steady_clock::now() - began).count();
    const Film small = *first_look(tracer, 240, 136, 0.125 - so_far);
    state.counters["pixels"] = static_cast<double>(small.pixels());
    benchmark::DoNotOptimize(
        developed(filtered(mixed(small, layer_weights(*world)), small, 3), signal_per_luminance(world->camera)));
  }
}
void first_picture(benchmark::State& state) { first_picture_of(state, demo()); }
BENCHMARK(first_picture)->Unit(benchmark::kMillisecond);

/// What is left of a filtered picture's noise at a shot's print and backdrop after so many passes, in codes of
/// 255: root of the mean square against 400 passes, at 320 x 180.
void filter_error(benchmark::State& state) {
  const Project project = project_of(demo());
  const auto world = staged(project, static_cast<std::size_t>(state.range(0)));
  const Tracer tracer(world);
  const auto signal = signal_per_luminance(world->camera);
  Film film = tracer.film(320, 180, Caustics::by_photons);
  std::map<int, std::vector<std::uint8_t>> at;
  for (auto _ : state) {
    for (int n = 1; n <= 400; ++n) {
      (void)tracer.add_pass(film);
      if (n == 1 || n == 4 || n == 16)
        at[n] = developed(filtered(mixed(film, layer_weights(*world)), film, n < 16 ? 3 : 2), signal);
    }
  }
  const auto settled = developed(mixed(film, layer_weights(*world)), signal);
  for (const auto& [n, codes] : at) {
    double label = 0, ground = 0, labels = 0, grounds = 0;
    for (std::size_t p = 0; p < film.pixels(); ++p) {
      const Mesh* mesh = film.first[p].mesh;
      if (!mesh) continue;
      double square = 0;
      for (std::size_t c = 3 * p; c < 3 * p + 3; ++c) square += std::pow(double(codes[c]) - settled[c], 2) / 3;
      if (mesh->picture) label += square, ++labels;
      if (mesh->role == Role::backdrop) ground += square, ++grounds;
    }
    state.counters["label_" + std::to_string(n)] = std::sqrt(label / labels);
    state.counters["backdrop_" + std::to_string(n)] = std::sqrt(ground / grounds);
  }
}
BENCHMARK(filter_error)->Arg(0)->Arg(1)->Arg(3)->Arg(5)->Arg(6)->Arg(7)->Unit(benchmark::kSecond)->Iterations(1);

void remix(benchmark::State& state) {
  const Project project = project_of(demo());
  const auto world = staged(project, 1);
  const Tracer tracer(world);
  Film film = tracer.film(480, 270);
  (void)tracer.add_pass(film);
  for (auto _ : state)
    benchmark::DoNotOptimize(developed(mixed(film, layer_weights(*world)), signal_per_luminance(world->camera)));
}
BENCHMARK(remix)->Unit(benchmark::kMillisecond);

/// All levels after one change, at the quality that the window shows first. 0: a dimmer, 1: the f-number,
/// 2: a light moved, 3: the camera moved.
void levels_after_a_change(benchmark::State& state) {
  const Forecaster forecaster(quick_measure);
  ProjectReader reader;
  Document document = demo();
  (void)forecaster.levels(reader.read(document), 1);
  double step = 0;
  for (auto _ : state) {
    step += 1e-4;
    const Json values[] = {0.9 - step, 10 + step, Json{0.62 + step, 0.52, 0.36}, Json{step, 0.09, 0.95}};
    const char* pointers[] = {"/setups/0/lights/0/dimmer", "/shots/1/camera/f_number", "/setups/0/lights/0/place",
                              "/shots/1/camera/place"};
    document = *with_value(document, pointers[state.range(0)], values[state.range(0)]);
    benchmark::DoNotOptimize(forecaster.levels(reader.read(document), 1));
  }
}
BENCHMARK(levels_after_a_change)->DenseRange(0, 3)->Unit(benchmark::kMillisecond);

/// An effect of 2 s over the demo's jar, worked out anew (another seed each time) and its forms made for 48
/// frames; then the same of 200 pieces.
void effect_of_two_seconds(benchmark::State& state) {
  const auto& kinds = effect_kinds();
  const auto index = static_cast<std::size_t>(state.range(0));
  const bool many = index >= kinds.size();
  const int pieces = 50 << (index - std::min(index, kinds.size()));
  const std::string id = many ? "pieces" : kinds[index].id;
  Document document = demo();
  Json effect = begun_effect(ProjectReader().read(document), 1, *effect_kind(id));
  effect["at"] = 0.0;
  if (many) effect["pieces"] = pieces;
  std::uint64_t seed = 1;
  double first = 0.0;
  for (auto _ : state) {
    effect["seed"] = ++seed;
    document = *with_value(document, "/shots/1/effects", Json::array({effect}));
    const Project project = ProjectReader().read(document);
    const Shot& shot = *project.shots[1];
    const auto forms = [&](double t) {
      const ToldEffects told = told_effects(project, shot);
      std::vector<Medium> media;
      benchmark::DoNotOptimize(effect_meshes(told, t, {t, t + 0.005, t + 0.01}, media));
      benchmark::DoNotOptimize(effect_clouds(told, t));
    };
    first += seconds_of([&] { forms(0.0); });
    for (int k = 1; k < 48; ++k) forms(k / 24.0);
  }
  state.SetLabel(many ? std::to_string(pieces) + " pieces" : id);
  state.counters["first_frame"] = benchmark::Counter(first, benchmark::Counter::kAvgIterations);
}
BENCHMARK(effect_of_two_seconds)
    ->DenseRange(0, static_cast<int>(effect_kinds().size()) + 2)
    ->Unit(benchmark::kMillisecond);

Document with_twenty_lights() {
  Document document = demo();
  Json setup = *document.list("setups")[0];
  for (int k = 0; k < 17; ++k) {
    Json light = setup["lights"][k % 3];
    light["id"] = "extra" + std::to_string(k);
    light["place"] = {std::cos(k) * 0.9, 0.3 + 0.03 * k, std::sin(k) * 0.9};
    light["dimmer"] = 0.02;
    setup["lights"].push_back(light);
  }
  return *with_value(document, "/setups/0", setup);
}

void first_picture_under_twenty_lights(benchmark::State& state) { first_picture_of(state, with_twenty_lights()); }
BENCHMARK(first_picture_under_twenty_lights)->Unit(benchmark::kMillisecond);

/// One light behind each kind of modifier: cloth, inner cloth, beads bare and behind a sheet, a lens, a tube, a
/// gate, a grid with doors, a gel by its curve under a film, a dome and a tube that shines; a sheet of frost
/// before one, and a window with its sun in the room's wall.
Document with_every_modifier() {
  Document document = demo();
  Json setup = *document.list("setups")[0];
  const std::vector<Json> faces{
      {{"front", {{"kind", "cloth"}, {"gap", 0.2}, {"forward", 0.2}}}},
      {{"front", {{"kind", "cloth"}, {"gap", 0.2}, {"baffle", 0.1}}}},
      {{"front", {{"kind", "beads"}, {"pitch", 0.02}}}},
      {{"front", {{"kind", "beads"}, {"pitch", 0.02}, {"gap", 0.02}}}},
      {{"shape", "disc"},
       {"radius", 0.05},
       {"front", {{"kind", "lens"}, {"source_radius", 0.006}, {"focal", 0.08}, {"distance", 0.06}}}},
      {{"shape", "disc"},
       {"radius", 0.03},
       {"front", {{"kind", "tube"}, {"length", 0.15}, {"mouth_radius", 0.03}}}},
      {{"shape", "disc"},
       {"radius", 0.03},
       {"front",
        {{"kind", "gate"}, {"focal", 0.1}, {"distance", 0.12}, {"gate_width", 0.02}, {"gate_height", 0.02}}}},
      {{"grid_deg", 40}, {"doors", {{"length", 0.15}, {"top_deg", 40}}}},
      {{"gel_curve", {{{"nm", 400}, {"share", 0.2}}, {{"nm", 700}, {"share", 0.9}}}},
       {"film", {{"angle_deg", 30}}}},
      {{"shape", "dome"}, {"radius", 0.2}},
      {{"shape", "tube"}, {"radius", 0.02}, {"length", 0.6}}};
  for (std::size_t k = 0; k < faces.size(); ++k) {
    const double turn = 2.0 * pi * static_cast<double>(k) / static_cast<double>(faces.size());
    Json light{{"id", "face" + std::to_string(k)},
               {"place", {std::sin(turn), 0.6, std::cos(turn)}},
               {"aim", {0, 0.05, 0}},
               {"shape", "rectangle"},
               {"width", 0.3},
               {"height", 0.3},
               {"lumens", 300}};
    light.update(faces[k]);
    setup["lights"].push_back(light);
  }
  setup["cards"].push_back({{"id", "frost"},
                            {"place", {0.3, 0.4, 0.3}},
                            {"aim", {0, 0.05, 0}},
                            {"width", 0.4},
                            {"height", 0.4},
                            {"material", {{"kind", "translucent"}, {"transmittance", 0.6}, {"forward", 0.4}}}});
  setup["room"] = {{"width", 4.0}, {"depth", 5.0}, {"height", 2.6}, {"sky", "clear"}, {"north_deg", 0}};
  setup["room"]["windows"] = {{{"id", "w"}, {"wall", "right"}, {"width", 1.2}, {"height", 1.2}}};
  document = *with_value(document, "/setups/0", setup);
  return *with_values(document, {{"/project/date", "2026-06-21"},
                                 {"/project/hour", 16.0},
                                 {"/project/latitude", 50.0},
                                 {"/project/longitude", 10.0}});
}
void first_picture_with_every_modifier(benchmark::State& state) { first_picture_of(state, with_every_modifier()); }
BENCHMARK(first_picture_with_every_modifier)->Unit(benchmark::kMillisecond);

void levels_of(benchmark::State& state, Document document) {
  const Forecaster forecaster(quick_measure);
  ProjectReader reader;
  double step = 0;
  for (auto _ : state) {
    step += 1e-4;
    document = *with_value(document, "/setups/0/lights/0/place", Json{0.62 + step, 0.52, 0.36});
    benchmark::DoNotOptimize(forecaster.levels(reader.read(document), 1));
  }
}
void levels_with_twenty_lights(benchmark::State& state) { levels_of(state, with_twenty_lights()); }
BENCHMARK(levels_with_twenty_lights)->Unit(benchmark::kMillisecond);
void levels_with_every_modifier(benchmark::State& state) { levels_of(state, with_every_modifier()); }
BENCHMARK(levels_with_every_modifier)->Unit(benchmark::kMillisecond);

/// A picture's pass under twenty lights against one under the first of them, time per ray.
void twenty_lights_against_one(benchmark::State& state) {
  const Document twenty = with_twenty_lights();
  Json setup = *twenty.list("setups")[0];
  setup["lights"] = Json::array({setup["lights"][0]});
  const Tracer many(staged(project_of(twenty), 1)),
      single(staged(project_of(*with_value(twenty, "/setups/0", setup)), 1));
  double per_ray[2] = {};
  for (auto _ : state) {
    int k = 0;
    for (const Tracer* tracer : {&many, &single}) {
      Film film = tracer->film(480, 270);
      const auto before = tracer->rays();
      const double seconds = seconds_of([&] { (void)tracer->add_pass(film); });
      per_ray[k++] += seconds / static_cast<double>(tracer->rays() - before);
    }
  }
  state.counters["speed_per_ray"] = per_ray[1] / per_ray[0];
}
BENCHMARK(twenty_lights_against_one)->Unit(benchmark::kMillisecond);

/// E: what Embree alone needs for 50 million rays of the demo's shots, on all cores.
double embree_for_50_million(const Project& project) {
  double seconds = 0.0, rays = 0.0;
  for (std::size_t shot = 0; shot < project.shots.size(); ++shot) {
    const Tracer tracer(staged(project, shot));
    std::vector<RayRecord> record;
    Film recorded = tracer.film(240, 135);
    (void)tracer.add_pass(recorded, nullptr, &record);
    std::atomic<std::size_t> met{0};
    seconds += seconds_of([&] {
      tbb::parallel_for(tbb::blocked_range<std::size_t>(0, record.size(), 4096), [&](const auto& range) {
        std::size_t here = 0;
        for (std::size_t i = range.begin(); i < range.end(); ++i) here += tracer.geometry().raw(record[i]) ? 1 : 0;
        met += here;
      });
    });
    rays += static_cast<double>(record.size());
    benchmark::DoNotOptimize(met.load());
  }
  return seconds * 50e6 / rays;
}

/// The whole forecast of the demo with every lever, and for each level that is off how long its first lever and
/// all of them took, as parts of E.
void levers_against_embree(benchmark::State& state) {
  const Project project = project_of(demo());
  const double e = embree_for_50_million(project);
  std::vector<double> first, all;
  double whole = 0.0, levels_alone = 0.0;
  for (auto _ : state) {
    const Forecaster forecaster;
    whole += seconds_of([&] {
      for (std::size_t shot = 0; shot < project.shots.size(); ++shot) {
        std::vector<Level> levels;
        levels_alone += seconds_of([&] { levels = forecaster.sure_levels(project, shot); });
        for (const Level& level : levels) {
          if (level.state != State::out && level.state != State::leaning) continue;
          double until_first = 0.0;
          const auto start = std::chrono::steady_clock::now();
          const auto proved = [&](const Lever&, std::size_t, std::size_t) {
            if (until_first == 0.0)
              until_first = std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
          };
          all.push_back(seconds_of([&] {
            (void)forecaster.levers(demo(), shot, level.id, nullptr, {.proved = proved, .known = levels});
          }));
          if (until_first > 0.0) first.push_back(until_first);
        }
      }
    });
  }
  const auto told = [&](const char* name, std::vector<double> list) {
    std::sort(list.begin(), list.end());
    if (list.empty()) return;
    state.counters[std::string(name) + "_median_E"] = list[list.size() / 2] / e;
    state.counters[std::string(name) + "_worst_E"] = list.back() / e;
  };
  state.counters["E_seconds"] = e;
  state.counters["forecast_E"] = whole / e;
  state.counters["levels_alone_E"] = levels_alone / e;
  told("first_lever", first);
  told("all_levers", all);
}
BENCHMARK(levers_against_embree)->Unit(benchmark::kMillisecond)->Iterations(1);

/// What every thing not owned would buy, over the whole demo; as closely as the window looks.
void what_would_this_buy(benchmark::State& state) {
  const auto things = acquisitions(demo());
  std::size_t homes = 0;
  for (auto _ : state) {
    homes = 0;
    for (const Bought& b : ranked(Forecaster(search_measure), demo(), things)) homes += b.homes > 0 ? 1 : 0;
  }
  state.counters["things"] = static_cast<double>(things.size());
  state.counters["useful"] = static_cast<double>(homes);
}
BENCHMARK(what_would_this_buy)->Unit(benchmark::kMillisecond)->Iterations(1);

/// One reading where only direct light counts, and its distance from the closed form.
void meter_direct(benchmark::State& state) {
  Document document = demo();
  Json setup{{"id", "A"},
             {"lights",
              {{{"id", "key"},
                {"place", {0.0, 1.0, 0.0}},
                {"aim", {0.0, 0.0, 0.0}},
                {"shape", "rectangle"},
                {"width", 1.0},
                {"height", 0.6},
                {"lumens", 1884.95559215}}}}};
  document = *with_value(document, "/setups/0", setup);
  const Project project = project_of(document);
  Shot bare = *project.shots[0];
  bare.products.clear();
  const Tracer tracer(std::make_shared<const StagedWorld>(stage(project, bare, 0.0)));
  double lux = 0;
  for (auto _ : state) benchmark::DoNotOptimize(lux = illuminance(tracer, {0, 0, 0}, {0, 1, 0}).total());
  const double luminance = 1884.95559215 / (pi * 0.6);
  state.counters["off_closed_form_%"] =
      100 * std::abs(lux / rect_illuminance({.luminance = luminance, .width = 1, .height = 0.6, .distance = 1})
                               ->illuminance_lx -
                     1);
}
BENCHMARK(meter_direct)->Unit(benchmark::kMillisecond);

void one_edit_kept(benchmark::State& state) {
  const fs::path file = fs::temp_directory_path() / "cinnabar-bench-edit.cinnabar";
  fs::remove(file);
  {
    auto store = Store::create(file.string(), demo());
    double step = 0;
    for (auto _ : state) {
      step += 1e-4;
      const Document next = *with_value((*store)->document(), "/setups/0/lights/0/dimmer", 0.9 - step);
      if (!(*store)->apply(edit_between((*store)->document(), next, "Key dimmed")))
        state.SkipWithError("not kept");
    }
  }
  fs::remove(file);
}
BENCHMARK(one_edit_kept)->Unit(benchmark::kMillisecond);

void open_300_shots_10000_takes(benchmark::State& state) {
  const fs::path file = fs::temp_directory_path() / "cinnabar-bench-large.cinnabar";
  fs::remove(file);
  Document document = demo();
  const auto first = *document.list("shots")[1];
  auto& shots = document.lists["shots"];
  for (int k = 0; k < 292; ++k) {
    Json copy = first;
    copy["id"] = "many" + std::to_string(k);
    shots.push_back(std::make_shared<const Json>(copy));
  }
  auto& takes = document.lists["takes"];
  takes.clear();
  for (int k = 0; k < 10000; ++k)
    takes.push_back(
        std::make_shared<const Json>(Json{{"id", "t" + std::to_string(k)},
                                          {"shot", shots[static_cast<std::size_t>(k) % shots.size()]->at("id")},
                                          {"number", k / 300 + 1},
                                          {"kept", k % 7 == 0},
                                          {"reasons", {"late"}}}));
  if (!Store::create(file.string(), document)) state.SkipWithError("not made");
  for (auto _ : state) {
    auto store = Store::open(file.string(), Access::write);
    ProjectReader reader;
    benchmark::DoNotOptimize(reader.read((*store)->document()));
  }
  fs::remove(file);
}
BENCHMARK(open_300_shots_10000_takes)->Unit(benchmark::kMillisecond);

}  // namespace

BENCHMARK_MAIN();
