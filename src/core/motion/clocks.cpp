#include "cinnabar/motion/clocks.h"

#include <algorithm>
#include <boost/rational.hpp>
#include <cmath>

namespace cinnabar {

Keys<SlowMotionInputs> SlowMotionInputs::keys() {
  static const Key<SlowMotionInputs> list[]{
      {"capture_rate", "1/s", positive, &SlowMotionInputs::capture_rate, Typed::rate},
      {"timeline_rate", "1/s", positive, &SlowMotionInputs::timeline_rate, Typed::rate},
      {"screen_time", "s", non_negative, &SlowMotionInputs::screen_time}};
  return list;
}
Results<SlowMotion> SlowMotion::results() {
  static const ResultKey<SlowMotion> list[]{{"factor", "x", &SlowMotion::factor},
                                            {"set_time", "s", &SlowMotion::set_time},
                                            {"frames", "frames", &SlowMotion::frames}};
  return list;
}
Expected<SlowMotion> slow_motion(const SlowMotionInputs& in) {
  CINNABAR_TRY(check(in));
  return SlowMotion{in.capture_rate / in.timeline_rate, in.screen_time * in.timeline_rate / in.capture_rate,
                    in.screen_time * in.timeline_rate};
}

namespace {
/// Screen seconds of `dt` set seconds while the speed goes linearly from s0 to s1.
double screen_piece(double dt, double s0, double s1) {
  const double x = (s1 - s0) / s0;
  return x == 0.0 ? dt / s0 : dt / s0 * std::log1p(x) / x;
}
/// Set seconds into a piece of slope `a` from speed `s0` after `screen` seconds on screen.
double set_piece(double screen, double s0, double a) {
  return a == 0.0 ? s0 * screen : s0 * std::expm1(a * screen) / a;
}
}  // namespace

Keys<RampInputs> RampInputs::keys() {
  static const Key<RampInputs> list[]{{"points", "t:speed,...", positive, &RampInputs::points},
                                      {"capture_rate", "1/s", positive, &RampInputs::capture_rate, Typed::rate},
                                      {"timeline_rate", "1/s", positive, &RampInputs::timeline_rate, Typed::rate}};
  return list;
}
Results<Ramp> Ramp::results() {
  static const ResultKey<Ramp> list[]{{"set_time", "s", &Ramp::set_time},
                                      {"screen_time", "s", &Ramp::screen_time},
                                      {"least_samples_per_frame", "", &Ramp::least_samples_per_frame}};
  return list;
}
Expected<Ramp> ramp(const RampInputs& in) {
  CINNABAR_TRY(check(in));
  const std::string wanted = "at least two t:speed pairs, t strictly rising and speed > 0";
  if (in.points.size() < 2) return out_of_range("points", wanted);
  double screen = 0.0, least = in.points.front().speed;
  for (std::size_t i = 0; i < in.points.size(); ++i) {
    const SpeedPoint& p = in.points[i];
    if (!std::isfinite(p.set_time) || !std::isfinite(p.speed) || p.speed <= 0.0)
      return out_of_range("points", wanted);
    least = std::min(least, p.speed);
    if (i == 0) continue;
    const double dt = p.set_time - in.points[i - 1].set_time;
    if (dt <= 0.0) return out_of_range("points", wanted);
    screen += screen_piece(dt, in.points[i - 1].speed, p.speed);
  }
  return Ramp{in.points.back().set_time - in.points.front().set_time, screen,
              in.capture_rate * least / in.timeline_rate};
}

Keys<StopMotionInputs> StopMotionInputs::keys() {
  static const Key<StopMotionInputs> list[]{
      {"screen_time", "s", positive, &StopMotionInputs::screen_time},
      {"timeline_rate", "1/s", positive, &StopMotionInputs::timeline_rate, Typed::rate},
      {"hold_frames", "frames", Range{1, unbounded, false, false, true}, &StopMotionInputs::hold_frames},
      {"turn_deg", "deg", any_number, &StopMotionInputs::turn_deg},
      {"seconds_per_picture", "s", positive, &StopMotionInputs::seconds_per_picture}};
  return list;
}
Results<StopMotion> StopMotion::results() {
  static const ResultKey<StopMotion> list[]{{"pictures", "", &StopMotion::pictures},
                                            {"step_deg", "deg", &StopMotion::step_deg},
                                            {"set_time", "s", &StopMotion::set_time}};
  return list;
}
Expected<StopMotion> stop_motion(const StopMotionInputs& in) {
  CINNABAR_TRY(check(in));
  const double pictures = std::max(1.0, std::ceil(in.screen_time * in.timeline_rate / in.hold_frames - 1e-9));
  return StopMotion{pictures, in.turn_deg / pictures, pictures * in.seconds_per_picture};
}

Keys<JudderInputs> JudderInputs::keys() {
  static const Key<JudderInputs> list[]{
      {"travel_frame_widths", "widths", positive, &JudderInputs::travel_frame_widths},
      {"time", "s", positive, &JudderInputs::time},
      {"timeline_rate", "1/s", positive, &JudderInputs::timeline_rate, Typed::rate}};
  return list;
}
Results<Judder> Judder::results() {
  static const ResultKey<Judder> list[]{{"seconds_per_width", "s", &Judder::seconds_per_width},
                                        {"least_seconds_per_width", "s", &Judder::least_seconds_per_width}};
  return list;
}
Expected<Judder> judder(const JudderInputs& in) {
  CINNABAR_TRY(check(in));
  return Judder{in.time / in.travel_frame_widths, 7.0 * 24.0 / in.timeline_rate};
}

namespace {

using Ratio = boost::rational<long long>;

/// A rate's own fraction: whole, over 1001, or to a ten-thousandth.
Ratio rate_ratio(double rate) {
  const double whole = std::round(rate), thousands = std::round(rate * 1.001);
  if (std::abs(rate - whole) < 1e-9) return {std::llround(whole), 1};
  if (std::abs(rate * 1.001 - thousands) < 1e-6) return {1000 * std::llround(thousands), 1001};
  return {std::max(1ll, std::llround(rate * 1e4)), 10000};
}
bool thousandth_slow(const Ratio& rate) { return rate.denominator() % 1001 == 0; }

}  // namespace

Slowing exact_slowing(double capture_rate, double timeline_rate) {
  const Ratio capture = rate_ratio(capture_rate), timeline = rate_ratio(timeline_rate);
  Ratio slowing = capture / timeline;
  const bool conformed = thousandth_slow(capture) != thousandth_slow(timeline);
  if (conformed) slowing *= thousandth_slow(capture) ? Ratio(1001, 1000) : Ratio(1000, 1001);
  return {slowing.numerator(), slowing.denominator(), conformed};
}

PlayClock::PlayClock(const std::vector<SpeedPoint>& points) {
  for (const SpeedPoint& p : points)
    if (p.speed > 0.0 && std::isfinite(p.speed) && (points_.empty() || p.set_time > points_.back().set_time))
      points_.push_back(p);
  if (points_.empty()) return;
  screen_.resize(points_.size());
  // Screen time 0 is set time 0; the first point's speed holds before it.
  screen_[0] = points_[0].set_time / points_[0].speed;
  for (std::size_t i = 1; i < points_.size(); ++i)
    screen_[i] = screen_[i - 1] + screen_piece(points_[i].set_time - points_[i - 1].set_time, points_[i - 1].speed,
                                               points_[i].speed);
  if (points_[0].set_time < 0.0) {  // shift so that set time 0 shows at screen time 0
    const double at_zero = screen_forward(0.0);
    for (double& s : screen_) s -= at_zero;
  }
}

PlayClock PlayClock::backward(double whole) const {
  PlayClock clock = *this;
  clock.whole_ = whole;
  return clock;
}
double PlayClock::screen_at(double set_time) const {
  return whole_ ? *whole_ - screen_forward(set_time) : screen_forward(set_time);
}
double PlayClock::set_at(double screen_time) const {
  return set_forward(whole_ ? *whole_ - screen_time : screen_time);
}

double PlayClock::screen_forward(double set_time) const {
  if (points_.empty()) return set_time;
  if (set_time <= points_.front().set_time)
    return screen_.front() - (points_.front().set_time - set_time) / points_.front().speed;
  for (std::size_t i = 1; i < points_.size(); ++i) {
    if (set_time > points_[i].set_time) continue;
    return screen_[i - 1] +
           screen_piece(set_time - points_[i - 1].set_time, points_[i - 1].speed, speed_at(set_time));
  }
  return screen_.back() + (set_time - points_.back().set_time) / points_.back().speed;
}

double PlayClock::set_forward(double screen_time) const {
  if (points_.empty()) return screen_time;
  if (screen_time <= screen_.front())
    return points_.front().set_time - (screen_.front() - screen_time) * points_.front().speed;
  for (std::size_t i = 1; i < points_.size(); ++i) {
    if (screen_time > screen_[i]) continue;
    const SpeedPoint &a = points_[i - 1], &b = points_[i];
    return a.set_time +
           set_piece(screen_time - screen_[i - 1], a.speed, (b.speed - a.speed) / (b.set_time - a.set_time));
  }
  return points_.back().set_time + (screen_time - screen_.back()) * points_.back().speed;
}

double PlayClock::speed_at(double set_time) const {
  if (points_.empty()) return 1.0;
  if (set_time <= points_.front().set_time) return points_.front().speed;
  for (std::size_t i = 1; i < points_.size(); ++i) {
    const SpeedPoint &a = points_[i - 1], &b = points_[i];
    if (set_time <= b.set_time)
      return a.speed + (b.speed - a.speed) * (set_time - a.set_time) / (b.set_time - a.set_time);
  }
  return points_.back().speed;
}

std::pair<double, double> PlayClock::speed_span(double from, double to) const {
  double most = std::max(speed_at(from), speed_at(to)), least = std::min(speed_at(from), speed_at(to));
  for (const SpeedPoint& p : points_) {
    if (p.set_time < from || p.set_time > to) continue;
    most = std::max(most, p.speed);
    least = std::min(least, p.speed);
  }
  return {most, least};
}

std::optional<PlayClock> with_rung(const PlayClock& clock, double screen, double set, double ease) {
  const double was = clock.set_at(screen);
  const bool backward = clock.is_backward();
  const double whole = backward ? clock.screen_at(0.0) : 0.0;
  if (!((backward ? whole - screen : screen) > 0.0) || !(was > 1e-9) || !(set > 1e-9) || !std::isfinite(set))
    return std::nullopt;
  // Time and speed by one factor: each stretch keeps its screen time, and the rung comes to stand where it is
  // asked.
  const double factor = set / was;
  std::vector<SpeedPoint> points;
  const auto& old = clock.points();
  if (old.empty() || old.front().set_time > 0.0) points.push_back({0.0, clock.speed_at(0.0) * factor});
  for (const SpeedPoint& p : old)
    if (p.set_time >= 0.0 && p.set_time < was - 1e-9) points.push_back({p.set_time * factor, p.speed * factor});
  if (!old.empty() && old.front().set_time < 0.0 && (points.empty() || points.front().set_time > 0.0))
    points.insert(points.begin(), {0.0, clock.speed_at(0.0) * factor});
  points.push_back({set, clock.speed_at(was) * factor});
  points.push_back({set + ease, clock.speed_at(was + ease)});
  for (const SpeedPoint& p : old)
    if (p.set_time > was + ease + 1e-9) points.push_back({p.set_time + (set - was), p.speed});
  for (const SpeedPoint& p : points)
    if (!(p.speed >= 0.001 && p.speed <= 1000.0)) return std::nullopt;
  const PlayClock ramped(points);
  return backward ? ramped.backward(whole) : ramped;
}

long recorded_frame(const PlayClock& clock, double screen, double capture_rate) {
  const double frames = clock.set_at(screen) * capture_rate;
  // Backward, a frame ends where forward it begins.
  return clock.is_backward() ? std::max(0L, static_cast<long>(std::ceil(frames - 1e-6)) - 1)
                             : static_cast<long>(std::floor(frames + 1e-6));
}
long kept_frame(const PlayClock& clock, long k, double capture_rate, double timeline_rate) {
  return recorded_frame(clock, static_cast<double>(k) / timeline_rate, capture_rate);
}

}  // namespace cinnabar
