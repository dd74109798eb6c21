#include "cinnabar/forecast/stops/purse.h"

#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/forecast/level_table.h"
#include "cinnabar/forecast/stops/settings.h"

namespace cinnabar {
namespace {

constexpr double dimmer_step = 0.1;      // stops
constexpr double far_off = 8.0;          // stops
constexpr double as_good_as_met = 0.05;  // stops from the target at which nobody has to pay any more

/// How its own levels stand at a setting, in few words.
std::string remark_of(const Forecaster& forecaster, const Bench& b, const std::vector<std::string>& ids) {
  std::string words;
  for (const std::string& id : ids)
    for (const Level& level : forecaster.levels(b.project, b.index, id)) {
      if (!level.value) continue;
      const LevelRow* row = level_row(id);
      words += (words.empty() ? "" : ", ") + (row ? in_words(row->brief) : level.title) + " " + value_text(level);
    }
  return words;
}

PurseRow row_of(std::string id, const std::vector<double>& values, double now, double (*stops)(double, double),
                const std::vector<std::optional<int>>& out, std::string remark) {
  PurseRow row{std::move(id), {}, 0, std::move(remark)};
  for (std::size_t i = 0; i < values.size(); ++i)
    row.notches.push_back({values[i], stops(values[i], now), i >= out.size() || out[i].value_or(1) == 0});
  std::stable_sort(row.notches.begin(), row.notches.end(),
                   [](const PurseNotch& a, const PurseNotch& c) { return a.stops < c.stops; });
  for (std::size_t i = 0; i < row.notches.size(); ++i)
    if (row.notches[i].value == now) row.now = i;
  return row;
}

/// Values that can be dialled, the present one among them whether or not it is one of these.
std::vector<double> with_present(std::vector<double> values, double now) {
  std::erase_if(values, [now](double v) { return std::abs(v - now) < 1e-6 * std::abs(now); });
  values.push_back(now);
  return values;
}

}  // namespace

std::string notch_text(const PurseRow& row, const PurseNotch& notch) {
  if (row.id == "rate") return number_text(notch.value, 5);
  if (row.id == "shutter") return shutter_text(notch.value);
  if (row.id == "aperture") return "f/" + number_text(notch.value, 3);
  if (row.id == "iso") return number_text(notch.value, 6);
  if (row.id == "nd")
    return notch.value > 0 ? number_text(notch.value, 3) + (notch.value == 1.0 ? " stop" : " stops")
                           : std::string("none");
  return std::abs(notch.value) < 1e-9 ? std::string("as set") : signed_text(notch.value, 1);
}

Expected<Purse> purse_of(const Forecaster& forecaster, const Document& document, std::size_t shot,
                         const std::atomic<bool>* cancel) {
  ProjectReader reader;
  const Project project = reader.read(document);
  if (shot >= project.shots.size()) return fail("shot", "is none of the project", "add one");
  const Bench b(document, project, shot);
  const auto exposed = exposure_now(forecaster, b, cancel);
  if (!exposed) return tl::unexpected(exposed.error());
  Purse purse;
  purse.least_over = purse.most_over = *exposed->value;
  // Where the light changes over the shot, the moment told is the one farthest off: far to either side it is the
  // end that lies there.
  for (const double far : {-far_off, far_off}) {
    const Maybe shifted = set(document, b.camera_path + "/iso", b.camera.iso * std::exp2(far));
    if (!shifted) continue;
    const auto then = forecaster.levels(reader.read(*shifted), shot, "camera.stops", cancel);
    if (!then.empty() && then.front().value)
      (far < 0 ? purse.least_over : purse.most_over) = *then.front().value - far;
  }
  if (purse.most_over - purse.least_over < 0.02)  // one and the same, but for what was measured more closely
    purse.least_over = purse.most_over = *exposed->value;
  purse.band = exposed->band;
  const ShotCamera& now = b.camera;
  const auto longer = [](double v, double was) { return std::log2(v / was); };
  const auto wider = [](double v, double was) { return 2.0 * std::log2(was / v); };
  const auto clearer = [](double v, double was) { return was - v; };
  const auto brighter = [](double v, double) { return v; };
  const auto add = [&](const char* id, std::vector<double> values, double value, double (*stops)(double, double),
                       const char* member, const std::vector<std::string>& levels,
                       const std::vector<std::string>& told) {
    const auto all = with_present(std::move(values), value);
    purse.rows.push_back(
        row_of(id, all, value, stops, out_at(forecaster, b, member, all, levels), remark_of(forecaster, b, told)));
  };
  purse.rows.push_back(row_of("rate", {b.optics.rate}, b.optics.rate, brighter, {}, ""));
  purse.rows.back().notches.front().stops = 0.0;
  add("shutter", shutter_knob(b).steps, now.shutter_time, longer, "/shutter_time", shutter_levels(),
      shutter_levels());
  add("aperture", f_numbers(b), now.f_number, wider, "/f_number", aperture_levels(), aperture_levels());
  add("iso", isos(b), now.iso, longer, "/iso", {"camera.iso"}, {"camera.noise"});
  add("nd", even_steps(0, 6, 1), now.nd_stops, clearer, "/nd_stops", {}, {});
  const DimmerRoom room = dimmer_room(b);
  std::vector<double> turns{0.0};
  for (double up = dimmer_step; up < room.up; up += dimmer_step) turns.push_back(up);
  for (double down = dimmer_step; down < room.down; down += dimmer_step) turns.push_back(-down);
  if (room.up > 0.0) turns.push_back(room.up);
  purse.rows.push_back(row_of("lights", turns, 0.0, brighter, {},
                              room.up + room.down > 0.0 ? said("{} stops up to full", signed_text(room.up, 1))
                                                        : said("none to be dimmed")));
  purse.payers = project.rule("exposure", b.shot) == "stop-down"
                     ? std::vector<std::string>{"iso", "lights", "nd", "shutter", "aperture"}
                     : std::vector<std::string>{"lights", "iso", "nd", "shutter", "aperture"};
  return purse;
}

namespace {
double given(const Purse& purse, const PurseHand& hand) {
  double sum = 0.0;
  for (std::size_t r = 0; r < purse.rows.size(); ++r) sum += purse.rows[r].notches[hand[r]].stops;
  return sum;
}
}  // namespace

double left_over(const Purse& purse, const PurseHand& hand) {
  const double sum = given(purse, hand), least = purse.least_over + sum, most = purse.most_over + sum;
  return std::abs(least) > std::abs(most) ? least : most;
}

PurseHand paid(const Purse& purse, PurseHand hand, std::size_t row, std::size_t notch,
               const std::set<std::string>& pins) {
  hand[row] = notch;
  for (const std::string& payer : purse.payers) {
    // The middle is brought to the target, so that neither end is farther off than it must be.
    const double over = 0.5 * (purse.least_over + purse.most_over) + given(purse, hand);
    if (std::abs(over) <= as_good_as_met) break;
    if (pins.contains(payer) || payer == purse.rows[row].id) continue;
    const auto found =
        std::find_if(purse.rows.begin(), purse.rows.end(), [&](const PurseRow& r) { return r.id == payer; });
    if (found == purse.rows.end()) continue;
    const auto r = static_cast<std::size_t>(found - purse.rows.begin());
    const double from = found->notches[hand[r]].stops;
    for (std::size_t n = 0; n < found->notches.size(); ++n) {
      const PurseNotch& one = found->notches[n];
      if (one.stands &&
          std::abs(over + one.stops - from) < std::abs(over + found->notches[hand[r]].stops - from) - 1e-9)
        hand[r] = n;
    }
  }
  return hand;
}

Values purse_values(const Document& document, std::size_t shot, const Purse& purse, const PurseHand& hand) {
  ProjectReader reader;
  const Project project = reader.read(document);
  const Bench b(document, project, shot);
  Values values;
  for (std::size_t r = 0; r < purse.rows.size(); ++r) {
    const PurseRow& row = purse.rows[r];
    const double value = row.notches[hand[r]].value;
    if (row.id == "shutter") values.push_back({b.camera_path + "/shutter_time", Json(value)});
    if (row.id == "aperture") values.push_back({b.camera_path + "/f_number", Json(value)});
    if (row.id == "iso") values.push_back({b.camera_path + "/iso", Json(value)});
    if (row.id == "nd") values.push_back({b.camera_path + "/nd_stops", Json(value)});
    if (row.id == "lights")
      for (auto& dimmed : dimmers_turned(b, value)) values.push_back(std::move(dimmed));
  }
  return values;
}

}  // namespace cinnabar
