#include "cinnabar/forecast/stops/purse.h"

#include <algorithm>
#include <cmath>
#include <functional>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/forecast/level_table.h"
#include "cinnabar/forecast/stops/settings.h"

namespace cinnabar {
namespace {

constexpr double dimmer_step = 0.1;      // stops
constexpr double as_good_as_met = 0.05;  // stops from the target at which nobody has to pay any more

/// How its own levels stand at a setting, in few words.
std::string remark_of(const Forecaster& forecaster, const Bench& b, const std::vector<std::string>& ids) {
  std::string words;
  for (const std::string& id : ids)
    for (const Level& level : forecaster.levels(b.project, b.index, id))
      if (level.value) words += (words.empty() ? "" : ", ") + brief_of(level) + " " + value_text(level);
  return words;
}

/// All that is known of a kind of row: the light that a value gives, in stops from a fixed one, and how it is
/// written.
struct RowKind {
  const char *id, *title, *member;
  double (*stops)(double value);
  std::string (*text)(double value);
};
const RowKind of_rate{"rate", "Frames a second", "", [](double) { return 0.0; },
                      [](double v) { return number_text(v, 5); }},
    of_shutter{"shutter", "Shutter", "/shutter_time", [](double v) { return std::log2(v); },
               [](double v) { return shutter_text(v); }},
    of_aperture{"aperture", "Aperture", "/f_number", [](double v) { return -2.0 * std::log2(v); },
                [](double v) { return "f/" + number_text(v, 3); }},
    of_iso{"iso", "ISO", "/iso", [](double v) { return std::log2(v); },
           [](double v) { return number_text(v, 6); }},
    of_filter{"nd", "Filter", "/nd_stops", [](double v) { return -v; },
              [](double v) {
                return v <= 0.0 ? said("none") : v == 1.0 ? said("1 stop") : said("{} stops", number_text(v, 3));
              }},
    of_lights{"lights", "All lights", "", [](double v) { return v; },
              [](double v) { return std::abs(v) < 1e-9 ? said("as set") : signed_text(v, 1); }};

/// A row of values, the present one among them whether or not it is one that can be dialled.
PurseRow row_of(const RowKind& kind, const Bench& b, std::vector<double> values, double now,
                const std::function<std::vector<std::optional<int>>(const std::vector<double>&)>& out,
                std::string remark) {
  std::erase_if(values, [now](double v) { return std::abs(v - now) <= 1e-6 * std::abs(now); });
  values.push_back(now);
  std::sort(values.begin(), values.end(), [&](double a, double c) { return kind.stops(a) < kind.stops(c); });
  PurseRow row{kind.id,         in_words(kind.title), *kind.member ? b.camera_path + kind.member : "", {}, 0,
               kind.stops(now), std::move(remark)};
  const auto counts = out ? out(values) : std::vector<std::optional<int>>(values.size(), 0);
  for (std::size_t i = 0; i < values.size(); ++i) {
    row.notches.push_back({values[i], kind.stops(values[i]) - row.absolute, counts[i] == 0, kind.text(values[i])});
    if (values[i] == now) row.now = i;
  }
  return row;
}

}  // namespace

Expected<Purse> purse_of(const Forecaster& forecaster, const Document& document, std::size_t shot,
                         const std::atomic<bool>* cancel) {
  ProjectReader reader;
  const Project project = reader.read(document);
  if (shot >= project.shots.size()) return fail("shot", "is none of the project", "add one");
  const Bench b(document, project, shot);
  const auto exposed = exposure_now(forecaster, b, cancel);
  if (!exposed) return tl::unexpected(exposed.error());
  Purse purse{{}, exposed->least, exposed->most, exposed->band, {}, dimmers_of(b)};
  const ShotCamera& now = b.camera;
  // Shaded by the levels that a setting decides without light; told by those that people look at.
  const auto add = [&](const RowKind& kind, std::vector<double> values, double value,
                       const std::vector<std::string>& deciding, const std::vector<std::string>& told) {
    purse.rows.push_back(row_of(
        kind, b, std::move(values), value,
        [&](const std::vector<double>& all) { return out_at(forecaster, b, kind.member, all, deciding); },
        remark_of(forecaster, b, told)));
  };
  purse.rows.push_back(row_of(of_rate, b, {}, b.optics.rate, {}, said("kept, with its mode")));
  add(of_shutter, shutter_knob(b).steps, now.shutter_time, shutter_levels(), shutter_levels());
  add(of_aperture, f_numbers(b), now.f_number, aperture_levels(), aperture_levels());
  add(of_iso, isos(b), now.iso, {"camera.iso"}, {"camera.noise"});
  add(of_filter, even_steps(0, 6, 1), now.nd_stops, {}, {});
  const DimmerRoom room = room_of(purse.dimmers);
  std::vector<double> turns;
  for (double up = dimmer_step; up < room.up; up += dimmer_step) turns.push_back(up);
  for (double down = dimmer_step; down < room.down; down += dimmer_step) turns.push_back(-down);
  if (room.up > 0.0) turns.push_back(room.up);
  purse.rows.push_back(row_of(
      of_lights, b, turns, 0.0, {},
      purse.dimmers.empty() ? said("none to be dimmed") : said("{} stops up to full", signed_text(room.up, 1))));
  purse.rows.back().absolute = -room.up;  // full is as far away as they are dimmed
  purse.payers = project.rule<ExposureRule>(b.shot) == ExposureRule::stop_down
                     ? std::vector<std::string>{"iso", "lights", "nd", "shutter", "aperture"}
                     : std::vector<std::string>{"lights", "iso", "nd", "shutter", "aperture"};
  return purse;
}

PurseHand hand_now(const Purse& purse) {
  PurseHand hand;
  for (const PurseRow& row : purse.rows) hand.push_back(row.now);
  return hand;
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

Values purse_values(const Purse& purse, const PurseHand& hand) {
  Values values;
  for (std::size_t r = 0; r < purse.rows.size(); ++r) {
    const PurseRow& row = purse.rows[r];
    const double value = row.notches[hand[r]].value;
    if (!row.pointer.empty()) values.push_back({row.pointer, Json(value)});
    if (row.id == "lights")
      for (auto& dimmed : dimmed_by(purse.dimmers, value)) values.push_back(std::move(dimmed));
  }
  return values;
}

}  // namespace cinnabar
