// The recipes of the ready moves, in the order of the shelf. Lengths, angles and shares are common practice, no
// source.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/color/palette.h"
#include "cinnabar/forecast/levers/bench.h"
#include "cinnabar/forecast/moves/move_bench.h"
#include "cinnabar/project/model/names.h"

namespace cinnabar {
namespace {

constexpr double smooth_peak = 1.875;  // peak speed over mean of a minimum-jerk move (Flash & Hogan 1985)

void face_the_lens(MoveBench& m, double at, double lasting) {
  if (m.label_height) m.shot["needs"]["facing"] = {{"bearing_deg", 0}, {"at", at}, {"for", lasting}};
}
double label_share(const MoveBench& m) {
  return m.label_height ? (*m.label_height - m.low) / std::max(1e-6, m.height()) : 0.5;
}

void slow_spin(MoveBench& m) {
  m.look({.seconds = 3.0, .slow = 2.0, .turns = true});
  const double turning = 0.7 * m.set_seconds;
  const double way = m.on_table(110, turning, smooth_peak);
  m.shot["products"][0]["turn_deg"] = std::round(-way - m.label_bearing);
  m.track(Tracked::turntable, "minimum-jerk", {{0, 0}, {turning, std::round(way)}});
  face_the_lens(m, 0.85 * m.screen_seconds, 0.25 * m.screen_seconds);
}

void light_sweep(MoveBench& m) {
  m.look({.seconds = 3.5});
  m.own_setup("sweep", "Light sweep");
  const std::string key = m.key().at("id");
  for (Json& l : m.lights())
    if (l.at("id") != key) l["dimmer"] = 0.35 * l.value("dimmer", 1.0);
  const double t = m.set_seconds;
  m.track(target_text(Tracked::light_turn, key), "minimum-jerk", {{0.1 * t, -75}, {0.75 * t, 0}});
  face_the_lens(m, 0.85 * m.screen_seconds, 0.5);
}

void out_of_the_dark(MoveBench& m) {
  m.look({.seconds = 3.5});
  m.own_setup("dark", "Out of the dark");
  (void)m.key();
  for (Json& l : m.lights()) {
    const double full = l.value("dimmer", 1.0);
    m.track(target_text(Tracked::light_dimmer, l.at("id").get<std::string>()), "minimum-jerk",
            {{0.1 * m.set_seconds, 0}, {0.7 * m.set_seconds, full}});
  }
  m.note("Exposed for its end: the levels of light count its dark beginning too.");
}

/// A card out of focus at the frame's edge, between lens and product.
void foreground(MoveBench& m) {
  const Vec3 ahead = unit(m.aim - m.place), side = unit(cross(ahead, Vec3{0, 1, 0}));
  const double along = 0.35 * m.distance, aside = 0.2 * along + 0.06;
  const Vec3 at = m.place + ahead * along + side * aside;
  m.own_setup("foreground", "With a foreground")
      .at("cards")
      .push_back({{"id", "foreground"},
                  {"name", "Foreground"},
                  {"place", point(at)},
                  {"aim", point(at - ahead * 0.1)},
                  {"width", 0.12},
                  {"height", 0.3},
                  {"material", {{"kind", "matte"}, {"colour", {0.05, 0.05, 0.05}}}}});
}

void push_past(MoveBench& m) {
  m.look({.share = 0.62, .seconds = 3.5});
  foreground(m);
  (void)m.slide(unit(m.aim - m.place), 0.25 * m.distance, 1.0, "minimum-jerk", smooth_peak);
}

void pull_back(MoveBench& m) {
  m.look({.size = ShotSize::wide, .share = 0.42, .seconds = 4.0});
  (void)m.slide(unit(m.place - m.aim), 0.5 * m.distance, 0.0, "minimum-jerk", smooth_peak);
}

/// Left to right past the product, panning so that it stays in the middle.
void slide_centred(MoveBench& m) {
  m.look({.share = 0.55, .seconds = 3.5});
  const double way = m.slide({1, 0, 0}, 0.45 * m.distance, 0.5, "trapezoid-1-3", 1.5, true);
  if (way <= 0.0) return;
  constexpr int keys = 12;
  std::vector<std::pair<double, double>> pan, focus;
  const double near = m.shot["camera"]["focus"];
  const double flat = std::hypot(m.place.x - m.aim.x, m.place.z - m.aim.z);
  // Trapezoid by thirds, sampled, so that the pan follows it: what the rail does at a share of its time.
  const auto done = [](double s) {
    return s < 1.0 / 3 ? 2.25 * s * s : s < 2.0 / 3 ? 0.25 + 1.5 * (s - 1.0 / 3) : 1.0 - 2.25 * (1 - s) * (1 - s);
  };
  for (int k = 0; k <= keys; ++k) {
    const double s = static_cast<double>(k) / keys, x = -way / 2 + way * done(s);
    pan.emplace_back(m.set_seconds * s, -degrees(std::atan2(x, flat)));
    focus.emplace_back(m.set_seconds * s, near + std::hypot(x, flat) - flat);
  }
  m.track(Tracked::camera_pan, "linear", pan);
  m.track(Tracked::camera_focus, "linear", focus);
}

void overhead(MoveBench& m) {
  m.look({.size = ShotSize::wide,
          .share = 0.35,
          .seconds = 3.0,
          .elevation_deg = 86,
          .aim_height = 0.8,
          .turns = true});
  const double way = m.on_table(60, m.set_seconds, smooth_peak);
  m.track(Tracked::turntable, "minimum-jerk", {{0, 0}, {m.set_seconds, std::round(way)}});
  m.note("Light from the side or behind: one from above mirrors in the table.");
}

void rack_focus(MoveBench& m) {
  m.look({.seconds = 3.0});
  const double face = m.shot["camera"]["focus"], behind = face + std::clamp(4.0 * m.radius, 0.12, 0.4),
               t = m.set_seconds;
  const LensSpec* lens = by_id(m.project().lenses, m.shot["camera"].value("lens", ""));
  m.track(Tracked::camera_focus, "minimum-jerk", {{0.3 * t, behind}, {0.3 * t + 0.8, face}});
  if (m.rule<DepthRule>() == DepthRule::shallow && lens)
    m.shot["camera"]["f_number"] = std::max(2.8, lens->f_number_low);
  m.note("Mark A behind the product, mark B on it.");
}

void macro_glide(MoveBench& m) {
  m.look({.size = ShotSize::macro,
          .share = 0.95,
          .seconds = 2.5,
          .slow = 2.0,
          .bearing_deg = 10,
          .aim_height = label_share(m)});
  (void)m.slide({0.985, 0, -0.174}, std::min(0.04, 0.6 * m.radius), 0.5, "minimum-jerk", smooth_peak);
}

void silhouette(MoveBench& m) {
  m.look({.seconds = 2.5});
  Json& setup = m.own_setup("outline", "Silhouette");
  setup["house_rules"] = {{"backdrop", "white"}, {"fill", "none"}};
  const Json backdrop = setup.value("backdrop", Json::object());
  if (backdrop.value("kind", "none") == "none")
    setup["backdrop"] = {{"kind", "flat"}, {"distance", 1.0},
                         {"width", 2.0},   {"height", 1.6},
                         {"low", -0.2},    {"material", {{"kind", "matte"}, {"colour", {0.8, 0.8, 0.8}}}}};
  setup["backdrop"]["material"] = {{"kind", "matte"}, {"colour", {0.8, 0.8, 0.8}}};
  setup["ambient"] = {{"illuminance_lx", 1.0}};  // what a blacked-out room still has
  const double behind = setup["backdrop"].value("distance", 1.0);
  setup["lights"] = Json::array();
  Json& light =
      m.add_light("wall", "On the backdrop", {0.7, 0.8, -0.35 * behind}, {0, m.height(), -behind}, 0.4, 0.6);
  light["meant_for"] = "backdrop";
  light["grid_deg"] = 60;
  m.shot["target_stops"] = -3.5;
}

/// Each step stands still while its two frames are taken, then turns; on screen the waiting is left out.
void stop_motion(MoveBench& m) {
  m.look({.seconds = 2.0, .turns = true});
  const int steps =
      m.asked_seconds
          ? std::max(4, static_cast<int>(std::lround(*m.asked_seconds * m.project().timeline_rate / 2)))
          : 24;
  const double rpm = m.table_rpm().value_or(10.0), turning = std::max(0.35, 1.875 * 15.0 / (6.0 * 0.8 * rpm)),
               period = 3.0 * turning;                   // minimum jerk peaks at 1.875 times the mean
  const double shown = 2.0 / m.project().timeline_rate;  // of each step, on screen
  m.shot["play"] = {{0, std::round(period / shown * 1e4) / 1e4}};
  m.shot["screen_time"] = m.asked_seconds.value_or(steps * shown);
  m.set_seconds = steps * period;
  std::vector<std::pair<double, double>> keys;
  for (int k = 0; k < steps; ++k) {
    keys.emplace_back(k * period, 15.0 * k);
    keys.emplace_back(k * period + 1.7 * turning, 15.0 * k);
    keys.emplace_back(k * period + 2.7 * turning, 15.0 * (k + 1));
  }
  m.track(Tracked::turntable, "minimum-jerk", keys);
  (void)m.on_table(15, turning, 1.875);
  m.plates({"one frame for every step of 15 degrees"});
  m.note("Turn a step, take a frame; each is shown twice.");
}

void floating(MoveBench& m) {
  m.look({.seconds = 3.0, .aim_height = 0.3});
  m.shot["products"][0]["place"] = {0, std::round(60.0 * m.height()) / 100, 0};
  const Vec3 up{0, 0.5 * m.height(), 0};
  m.shot["camera"]["place"] = point(m.place + up), m.shot["camera"]["aim"] = point(m.aim + up);
  m.plates({"product on its stand", "clean plate, camera untouched"});
}

void key_spin(MoveBench& m) {
  m.look({.seconds = 4.0, .turns = true});
  Json& setup = m.own_setup("key", "Key colour");
  std::vector<Palette::Colour> colours;
  for (const auto& product : m.project().products)
    for (const Part& part : product->parts) colours.push_back({part.material.colour, 1.0});
  const KeyAdvice advice = key_colour(colours);
  setup["house_rules"] = {{"backdrop", "key"}};
  const Json kind = setup.value("backdrop", Json::object()).value("kind", "none");
  if (kind == "none")
    setup["backdrop"] = {{"kind", "flat"}, {"distance", 1.2}, {"width", 2.0}, {"height", 1.6}, {"low", -0.2}};
  setup["backdrop"]["material"] = {{"kind", "matte"},
                                   {"colour", {advice.colour.x, advice.colour.y, advice.colour.z}}};
  const double way = m.on_table(360, m.set_seconds, 1.0);
  const double speed = way < 359 ? 360 / std::max(20.0, way) : 1.0;
  if (speed > 1.01) {
    m.shot["play"] = {{0, std::ceil(speed * 100) / 100}};
    m.set_seconds = m.screen_seconds * std::ceil(speed * 100) / 100;
  }
  m.track(Tracked::turntable, "linear", {{0, 0}, {m.set_seconds, 360}});
  m.shot["needs"]["loop"] = true;
  m.plates({"product on an upturned glass", "clean plate"});
  m.note(fmt::format("Key colour {}, {} from the nearest colour of the product.", advice.name,
                     number_text(advice.difference, 3)));
}

void match_cut(MoveBench& m) {
  const Json before = m.shot["camera"];
  m.look({.seconds = 1.5});
  if (before.contains("place") && before.contains("aim") &&
      before.contains("lens")) {  // the same place, size and light
    m.shot["camera"] = before;
    if (!m.like_size.empty()) m.shot["size"] = m.like_size;
  }
  std::string other;
  const std::string own = m.shot["products"].empty() ? "" : m.shot["products"][0].value("product", "");
  for (const auto& p : m.project().products)
    if (p->id != own && other.empty()) other = p->id;
  if (!other.empty())
    m.shot["products"] = {{{"product", other}, {"place", {0, 0, 0}}, {"turn_deg", 0}}};
  else if (!m.shot["products"].empty())
    m.shot["products"][0]["turn_deg"] = 180;
  m.note("Same place, same size, same light as the shot before.");
}

/// Two lights swing apart from before the product to their places.
void doors_of_light(MoveBench& m) {
  m.look({.seconds = 3.5});
  m.own_setup("doors", "Doors of light");
  const Json key = m.key();
  Json right = key, left = key;
  const double x = std::max(0.3, std::abs(key["place"][0].get<double>()));
  right["id"] = "door-right", right["name"] = "Right door";
  left["id"] = "door-left", left["name"] = "Left door";
  right["place"][0] = x, left["place"][0] = -x;
  m.own_setup("", "")["lights"] = {left, right};
  const double t = m.set_seconds;
  m.track(target_text(Tracked::light_turn, "door-left"), "minimum-jerk", {{0.1 * t, -70}, {0.7 * t, 0}});
  m.track(target_text(Tracked::light_turn, "door-right"), "minimum-jerk", {{0.1 * t, 70}, {0.7 * t, 0}});
  m.note("Exposed for its end: the levels of light count its dark beginning too.");
}

void hero_with_words(MoveBench& m) {
  double aside = 0.2, share = 0.55, aim = 0.5;
  double last = 3.0;
  for (const Deliverable& d : m.project().deliverables)
    if (d.words) {
      last = std::max(last, d.words->last_seconds);
      if (d.words->width > 0.6) {  // across the frame: the product stands under them, or over
        const double free = 1.0 - d.words->height - 0.08;
        aside = 0, share = std::min(0.55, 0.85 * free);
        // From the product's middle to the frame's, as a share of the product.
        aim =
            0.5 + (d.words->y + d.words->height / 2 < 0.5 ? 1.0 : -1.0) * (0.5 * (d.words->height + 0.04)) / share;
      } else {
        aside = d.words->x + d.words->width / 2 < 0.5 ? 0.2 : -0.2;
      }
      break;
    }
  m.look({.share = share, .seconds = last + 1.0, .aim_height = aim, .aside = aside});
  (void)m.slide(unit(m.aim - m.place), 0.04 * m.distance, 1.0, "minimum-jerk", smooth_peak);
  m.shot["role"] = name_of(ShotRole::ending);
}

void swap_on_the_beat(MoveBench& m) {
  const double beat = m.project().beats_per_minute ? 60.0 / *m.project().beats_per_minute : 0.5;
  m.look({.seconds = std::round(std::max(4.0, std::ceil(2.0 / beat)) * beat * 1e4) / 1e4});
  m.plates({"first product", "second product, in the same place", "clean plate, camera untouched"});
  m.note(fmt::format("Cut between the plates on the beat, every {} s.", number_text(beat, 4)));
}

/// A plain shot for what an effect does: quick, sharp, close.
void plain(MoveBench& m, double slow, double seconds, double aim_height, double elevation,
           ShotRole role = ShotRole::action) {
  m.look({.share = 0.55,
          .seconds = seconds,
          .slow = slow,
          .elevation_deg = elevation,
          .aim_height = 0.5 + 0.3 * (aim_height - 0.5)});
  m.shot["role"] = name_of(role);
}
/// An effect by the school followed: in one take, or as plates.
void effect(MoveBench& m, double reset_minutes, const char* thing, int hands = 1) {
  m.shot["reset_minutes"] = reset_minutes;
  if (hands > 1) m.shot["hands"] = hands;
  if (m.rule<EffectsRule>() == EffectsRule::plates)
    m.plates({"product, untouched", fmt::format("{}, before black or a key colour, camera untouched", thing),
              "clean plate"});
}
void pour(MoveBench& m) { plain(m, 4, 2.5, 0.9, 8), effect(m, 5, "the stream", 2); }
void drop(MoveBench& m) { plain(m, 8, 2.0, 1.0, 10), effect(m, 3, "the drop"); }
void splash(MoveBench& m) { plain(m, 10, 2.5, 0.7, 6), effect(m, 10, "the splash", 2); }
void mist(MoveBench& m) {
  const bool glycerin = m.rule<DropletsRule>() == DropletsRule::glycerin;
  plain(m, 4, 2.0, 0.5, 4), effect(m, glycerin ? 1 : 4, "the mist");
  m.note(glycerin ? "Droplets of glycerin and water, half and half: they stay from take to take."
                  : "Plain water, sprayed anew for every take: it runs.");
}
void steam(MoveBench& m) { plain(m, 2, 3.0, 0.95, 4), effect(m, 3, "the steam"); }
void falling(MoveBench& m) { plain(m, 5, 2.0, 0.8, 6), effect(m, 4, "the pieces", 2); }
void layers(MoveBench& m) { plain(m, 10, 2.5, 0.6, 4), effect(m, 8, "each layer", 2); }
void hand(MoveBench& m) { plain(m, 1, 2.5, 0.5, 8), m.shot["hands"] = 2; }
void burst(MoveBench& m) {
  plain(m, 10, 2.0, 0.5, 6), effect(m, 10, "the burst", 2);
  m.plates({"clean plate", "box pulled apart by threads", "contents thrown"});  // by either school
}

}  // namespace

const std::vector<MoveEntry>& move_table() {
  static const std::vector<MoveEntry> table{
      {{"slow-spin", "Slow spin to the label", "turns and lands with the label to the lens", ""}, slow_spin},
      {{"light-sweep", "Light sweep reveal", "the key swings round and finds the label", ""}, light_sweep},
      {{"out-of-dark", "Out of the dark", "every light comes up by its dimmer", ""}, out_of_the_dark},
      {{"push-past", "Push past a foreground", "in past something out of focus", ""}, push_past},
      {{"pull-back", "Pull back to the whole set", "from the product to where it stands", ""}, pull_back},
      {{"slide-centred", "Slide, product centred", "past it, panning to keep it in the middle", ""},
       slide_centred},
      {{"overhead", "Overhead top-down", "from straight above, turning", ""}, overhead},
      {{"rack-focus", "Rack focus", "from behind the product to its label", ""}, rack_focus},
      {{"macro-glide", "Macro glide", "along a detail, very near", ""}, macro_glide},
      {{"silhouette", "Silhouette", "dark before a lit backdrop", ""}, silhouette},
      {{"doors-of-light", "Doors of light", "two lights swing apart", ""}, doors_of_light},
      {{"key-spin", "Spin on a key colour", "once round, to be cut out and looped", ""}, key_spin},
      {{"stop-motion", "Stop-motion turn", "a step, a frame, a step", ""}, stop_motion},
      {{"floating", "Floating product", "held up, its stand taken out later", "the stand's shadow"}, floating},
      {{"match-cut", "Match cut", "another product in the same place and light", ""}, match_cut},
      {{"swap", "Swap on the beat", "one for another, cut to the music", "how well the plates match"},
       swap_on_the_beat},
      {{"hero-words", "Hero with room for words", "aside, for the words, creeping in", ""}, hero_with_words},
      {{"hand-takes", "Hand enters and takes", "a hand comes in and lifts it away", "the hand's way and speed"},
       hand},
      {{"pour", "Pour", "a stream, several times slower", ""}, pour, "pour"},
      {{"drop", "Drop", "one drop falls and lands", ""}, drop, "drop"},
      {{"splash", "Splash", "the crown, ten times slower", "the crown's wall between its drops"},
       splash,
       "splash"},
      {{"mist", "Mist of droplets", "fine spray settles on it", "the fog of the spray in the air"}, mist, "mist"},
      {{"steam", "Steam rising", "lit from behind", ""}, steam, "steam"},
      {{"falling", "Falling pieces", "pieces fall past and round it", ""}, falling, "pieces"},
      {{"layers", "Layers landing", "one on another, as on elastic", "the kick of the elastic"}, layers, "layers"},
      {{"burst", "Burst", "the box opens and the contents fly", "the walls of the box"}, burst, "burst"}};
  return table;
}

}  // namespace cinnabar
