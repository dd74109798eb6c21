#include "cinnabar/devices/motion_machine.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/motion/moves.h"

namespace cinnabar {
namespace {

constexpr double tick = 1e-3;          // seconds: of the motors
constexpr double jog_most_time = 600;  // seconds
constexpr std::size_t most_loaded = 200'000, longest_command = 400;

std::string error(std::string_view what, std::string_view message, std::string_view mend) {
  return fmt::format("error {}: {}; {}", what, message, mend);
}

std::string places_text(const AxisPlaces& places) {
  std::string out;
  for (std::size_t a = 0; a < axis_count; ++a) out += fmt::format(" {}{:.4f}", axis_letters[a], places[a] + 0.0);
  return out;
}

std::string_view unit_of(std::size_t axis) { return axis_turns(axis) ? "degrees" : "mm"; }

std::optional<std::size_t> axis_of(std::string_view word) {
  if (word.size() != 1) return {};
  const auto found = axis_letters.find(word[0]);
  return found == std::string_view::npos ? std::nullopt : std::optional(found);
}

/// How long a piece takes from a place: by itself, by its feed, else as quickly as the slowest of its axes goes.
double seconds_of(const MotionPiece& piece, const AxisPlaces& from, const MotionSettings& settings) {
  if (piece.seconds > 0.0) return piece.seconds;
  double ways = 0.0, angles = 0.0, least = 0.0;
  for (std::size_t a = 0; a < axis_count; ++a) {
    if (!piece.to[a]) continue;
    const double by = *piece.to[a] - from[a];
    (axis_turns(a) ? angles : ways) += by * by;
    least = std::max(least, std::abs(by) / settings.axes[a].speed);
  }
  if (piece.feed <= 0.0) return least;
  return 60.0 * std::sqrt(ways > 0.0 ? ways : angles) / piece.feed;
}

}  // namespace

std::string_view word_of(MotionState state) {
  switch (state) {
    case MotionState::idle:
      return "idle";
    case MotionState::ready:
      return "ready";
    case MotionState::moving:
      return "moving";
    case MotionState::stopped:
      break;
  }
  return "stopped";
}

SimulatedMotion::SimulatedMotion(const MotionSettings& settings) : settings_(settings) {}

AxisPlaces SimulatedMotion::places() const {
  AxisPlaces out = played_;
  for (double& p : out) p = settings_.step > 0.0 ? settings_.step * std::round(p / settings_.step) : p;
  return out;
}

std::string SimulatedMotion::where() const {
  return fmt::format("{} {:.4f}{}", word_of(state_), run_clock_, places_text(places()));
}

std::string SimulatedMotion::limits() const {
  std::string out = "ok";
  for (std::size_t a = 0; a < axis_count; ++a) {
    const AxisLimits& l = settings_.axes[a];
    out += fmt::format("{} {} {:.4f} {:.4f} {:.4f} {:.4f}", a ? ";" : "", axis_letters[a], l.low, l.high, l.speed,
                       l.acceleration);
  }
  return out;
}

bool SimulatedMotion::may_move(std::string& why) const {
  if (expected_ > 0)
    why = error("load", "a program is being loaded", "send the rest of it, or stop");
  else if (state_ == MotionState::stopped)
    why = error("stopped", why_stopped_, "see that all is clear, then release");
  else if (state_ == MotionState::moving)
    why = error("moving", "it is on its way", "wait for it, or stop");
  return why.empty();
}

std::string SimulatedMotion::answer(std::string_view line) {
  silent_ = 0.0;
  if (line.size() > longest_command)
    return error("line", "is longer than 400 characters", "send one command a line");
  line = trimmed(line);
  if (line == "stop") {
    stop("by word");
    return "ok";
  }
  if (expected_ > 0) return loaded(line);
  Words words;
  for (std::string& word : split(line, ' '))
    if (!word.empty()) words.push_back(std::move(word));
  if (words.empty()) return error("line", "is empty", "send a command");
  const std::string& verb = words[0];
  if (verb == "hello") return "ok motion 1 " + std::string(axis_letters);
  if (verb == "where") return "ok " + where();
  if (verb == "limits") return limits();
  if (verb == "release") return release();
  if (verb == "load") return load(words);
  if (verb == "check") return check();
  if (verb == "start") return start();
  if (verb == "run") return run();
  if (verb == "jog") return jog(words);
  if (verb == "limit") return limit(words);
  if (verb == "watch") return watch(words);
  return error("command", "is not known",
               "use hello, where, limits, limit, load, check, start, run, jog, watch, stop, release");
}

std::string SimulatedMotion::release() {
  if (state_ != MotionState::stopped) return "ok";
  if (std::any_of(speeds_.begin(), speeds_.end(), [](double speed) { return speed != 0.0; }))
    return error("stopped", "it is not at rest yet", "wait for it");
  state_ = MotionState::idle;
  return "ok";
}

std::string SimulatedMotion::load(const Words& words) {
  std::string why;
  if (!may_move(why)) return why;
  const auto count = words.size() == 2 ? parse_number(words[1]) : std::nullopt;
  if (!count || *count < 1 || *count > most_loaded || *count != std::floor(*count))
    return error("load", "wants the number of lines that follow, 1 to 200000", "send load and that number");
  expected_ = static_cast<std::size_t>(*count);
  has_plan_ = false;
  lines_.clear();
  if (state_ == MotionState::ready) state_ = MotionState::idle;
  return "ok";
}

/// Each line bears its number, so one that got lost on the way is missed at once.
std::string SimulatedMotion::loaded(std::string_view line) {
  const auto blank = std::min(line.find(' '), line.size());
  const auto number = parse_number(line.substr(0, blank));
  const std::size_t due = lines_.size() + 1;
  if (!number || *number != static_cast<double>(due))
    return error("order", fmt::format("line {} is due", due), fmt::format("send from {} on, or stop", due));
  lines_.emplace_back(trimmed(line.substr(blank)));
  if (lines_.size() < expected_) return fmt::format("ok {}", due);
  expected_ = 0;
  const auto plan = read_motion_program(lines_);
  if (!plan) return error("program", plan.error().place + ": " + plan.error().message, plan.error().mend);
  plan_ = *plan;
  has_plan_ = true;
  return fmt::format("ok {}", due);
}

AxisPlaces SimulatedMotion::begin_of_plan() const {
  AxisPlaces out = asked_;
  for (const MotionPiece& piece : plan_.start)
    for (std::size_t a = 0; a < axis_count; ++a) out[a] = piece.to[a].value_or(out[a]);
  return out;
}

std::vector<SimulatedMotion::Waypoint> SimulatedMotion::way(const std::vector<MotionPiece>& pieces,
                                                            AxisPlaces from) const {
  std::vector<Waypoint> out;
  double time = 0.0;
  for (const MotionPiece& piece : pieces) {
    const double takes = seconds_of(piece, from, settings_);
    AxisPlaces to = from;
    for (std::size_t a = 0; a < axis_count; ++a) to[a] = piece.to[a].value_or(to[a]);
    if (piece.seconds <= 0.0 && takes > 0.0) {
      // Not timed by the program: from rest to rest, evenly quickened and slowed over a third each, in the time
      // in which the mean speed is the one asked for.
      constexpr int parts = 48;
      for (int k = 1; k <= parts; ++k) {
        const double u = static_cast<double>(k) / parts, done = eased(Shape::trapezoid_third, u);
        AxisPlaces at = from;
        for (std::size_t a = 0; a < axis_count; ++a) at[a] += (to[a] - from[a]) * done;
        out.push_back({time + takes * u, at});
      }
    } else if (takes > 0.0) {
      out.push_back({time + takes, to});
    }
    time += takes;
    from = to;
  }
  return out;
}

/// Of pieces timed by the program the mean speeds are known: what they change by between the middles of two pieces
/// is the acceleration, at the ends from and to rest over half a piece.
std::string SimulatedMotion::against(const std::vector<Waypoint>& way, const AxisPlaces& from, bool timed) const {
  AxisPlaces at = from, speed{};
  double time = 0.0, before = 0.0;
  for (std::size_t k = 0; k <= way.size(); ++k) {
    const double takes = k < way.size() ? way[k].time - time : 0.0;
    for (std::size_t a = 0; a < axis_count; ++a) {
      const AxisLimits& l = settings_.axes[a];
      const double to = k < way.size() ? way[k].places[a] : at[a], now = takes > 0.0 ? (to - at[a]) / takes : 0.0;
      const double over = 0.5 * (before + takes), gains = over > 0.0 ? std::abs(now - speed[a]) / over : 0.0;
      if (to < l.low - 1e-9 || to > l.high + 1e-9)
        return error("limit",
                     fmt::format("{} would come to {:.4f} {} at {:.3f} s, its limits are {:.4f} and {:.4f}",
                                 axis_letters[a], to, unit_of(a), time + takes, l.low, l.high),
                     "shorten the move, or shift what carries it");
      if (std::abs(now) > l.speed * (1.0 + 1e-6))
        return error("speed",
                     fmt::format("{} would go {:.4f} {} a second at {:.3f} s, it goes {:.4f}", axis_letters[a],
                                 std::abs(now), unit_of(a), time, l.speed),
                     "give the move more time");
      if (timed && gains > l.acceleration * 1.05)  // chords of a curve, so not exactly
        return error("acceleration",
                     fmt::format("{} would gain {:.4f} {} a second squared at {:.3f} s, it gains {:.4f}",
                                 axis_letters[a], gains, unit_of(a), time, l.acceleration),
                     "ease the move, or give it more time");
      at[a] = to;
      speed[a] = now;
    }
    time += takes;
    before = takes;
  }
  return {};
}

std::string SimulatedMotion::check() {
  if (expected_ > 0 || !has_plan_) return error("program", "none is loaded", "load one");
  const auto begin = way(plan_.start, asked_);
  if (auto no = against(begin, asked_, false); !no.empty()) return no;
  const AxisPlaces from = begin_of_plan();
  if (auto no = against(way(plan_.run, from), from, true); !no.empty()) return no;
  return fmt::format("ok {} lines, {:.4f} seconds", lines_.size(), plan_.seconds());
}

std::string SimulatedMotion::start() {
  std::string why;
  if (!may_move(why)) return why;
  if (auto checked = check(); !checked.starts_with("ok")) return checked;
  go("start", way(plan_.start, asked_));
  return "ok";
}

std::string SimulatedMotion::run() {
  std::string why;
  if (!may_move(why)) return why;
  if (state_ != MotionState::ready) return error("place", "it does not stand at the start", "send start first");
  run_clock_ = 0.0;
  go("run", way(plan_.run, asked_));
  return "ok";
}

std::string SimulatedMotion::jog(const Words& words) {
  std::string why;
  if (!may_move(why)) return why;
  const auto axis = words.size() == 4 ? axis_of(words[1]) : std::nullopt;
  const auto by = axis ? parse_number(words[2]) : std::nullopt,
             speed = axis ? parse_number(words[3]) : std::nullopt;
  if (!by || !speed || *speed <= 0.0)
    return error("jog", "wants an axis, by how much and how fast", "send for example jog X 5 10");
  MotionPiece piece;
  piece.to[*axis] = asked_[*axis] + *by;
  piece.feed = 60.0 * *speed;
  if (std::abs(*by) > jog_most_time * *speed)
    return error("jog", "would take over ten minutes", "go faster, or less far");
  const auto path = way({piece}, asked_);
  if (auto no = against(path, asked_, false); !no.empty()) return no;
  go("jog", path);
  return "ok";
}

std::string SimulatedMotion::limit(const Words& words) {
  const auto axis = words.size() == 6 ? axis_of(words[1]) : std::nullopt;
  std::array<double, 4> numbers{};
  for (std::size_t k = 0; axis && k < 4; ++k) {
    const auto number = parse_number(words[k + 2]);
    if (!number) return error("limit", "has no number for each", "send for example limit X -400 400 200 1000");
    numbers[k] = *number;
  }
  if (!axis || numbers[0] >= numbers[1] || numbers[2] <= 0.0 || numbers[3] <= 0.0)
    return error("limit", "wants an axis, lowest, highest, speed and acceleration",
                 "send for example limit X -400 400 200 1000");
  if (state_ == MotionState::moving) return error("moving", "it is on its way", "wait for it, or stop");
  settings_.axes[*axis] = {numbers[0], numbers[1], numbers[2], numbers[3]};
  if (state_ == MotionState::ready) state_ = MotionState::idle;  // to be checked anew
  return "ok";
}

std::string SimulatedMotion::watch(const Words& words) {
  const auto every = words.size() == 2 ? parse_number(words[1]) : std::nullopt;
  if (!every || *every < 0.0 || *every > 10000.0 || (*every > 0.0 && *every < 1.0))
    return error("watch", "wants milliseconds, 1 to 10000, or 0 for never", "send for example watch 20");
  watch_every_ = 1e-3 * *every;
  watch_due_ = 0.0;
  return "ok";
}

void SimulatedMotion::go(std::string what, std::vector<Waypoint> path) {
  doing_ = std::move(what);
  way_ = std::move(path);
  way_start_ = asked_;
  next_ = 0;
  clock_ = 0.0;
  state_ = MotionState::moving;
}

void SimulatedMotion::stop(std::string why) {
  why_stopped_ = "it was stopped " + std::move(why);
  expected_ = 0;
  state_ = MotionState::stopped;
  way_.clear();
}

void SimulatedMotion::left() {
  if (expected_ > 0) lines_.clear(), expected_ = 0;
  watch_every_ = 0.0;
  if (state_ == MotionState::moving) stop("since nobody was there");
}

/// One tick: what is asked goes along the way, or comes to rest straight ahead; the motors follow, and what they
/// carry follows them with its play.
void SimulatedMotion::step(double seconds) {
  AxisPlaces now = asked_;
  if (state_ == MotionState::moving) {
    clock_ += seconds;
    if (doing_ == "run") run_clock_ = clock_;
    while (next_ < way_.size() && clock_ >= way_[next_].time) now = way_[next_++].places;
    if (next_ < way_.size()) {
      const Waypoint& to = way_[next_];
      const double from = next_ > 0 ? way_[next_ - 1].time : 0.0;
      const AxisPlaces& base = next_ > 0 ? way_[next_ - 1].places : way_start_;
      for (std::size_t a = 0; a < axis_count; ++a)
        now[a] = base[a] + (to.places[a] - base[a]) * (clock_ - from) / (to.time - from);
    }
    for (std::size_t a = 0; a < axis_count; ++a) speeds_[a] = (now[a] - asked_[a]) / seconds;
  } else {
    for (std::size_t a = 0; a < axis_count; ++a) {
      const AxisLimits& l = settings_.axes[a];
      const double slower = std::max(0.0, std::abs(speeds_[a]) - l.acceleration * seconds);
      speeds_[a] = std::copysign(slower, speeds_[a]);
      now[a] =
          std::clamp(asked_[a] + speeds_[a] * seconds, std::min(l.low, asked_[a]), std::max(l.high, asked_[a]));
    }
  }
  asked_ = now;
  const double follows = settings_.lag > 0.0 ? 1.0 - std::exp(-seconds / settings_.lag) : 1.0,
               half = 0.5 * settings_.backlash;
  for (std::size_t a = 0; a < axis_count; ++a) {
    followed_[a] += (asked_[a] - followed_[a]) * follows;
    played_[a] = std::clamp(played_[a], followed_[a] - half, followed_[a] + half);
  }
}

std::vector<std::string> SimulatedMotion::advance(double seconds) {
  std::vector<std::string> out;
  for (double left = std::min(seconds, 3600.0); left > 1e-12; left -= tick) {
    const double dt = std::min(tick, left);
    step(dt);
    if (state_ == MotionState::moving && next_ >= way_.size()) {
      speeds_ = {};
      state_ = doing_ == "start" ? MotionState::ready : MotionState::idle;
      out.push_back("done " + doing_);
    }
    silent_ += dt;
    if (state_ == MotionState::moving && settings_.silence > 0.0 && silent_ > settings_.silence) {
      stop("since nothing was heard");
      out.push_back("stopped since nothing was heard");
    }
    if (watch_every_ > 0.0 && (watch_due_ -= dt) <= 0.0) {
      watch_due_ += watch_every_;
      out.push_back("at " + where());
    }
  }
  return out;
}

}  // namespace cinnabar
