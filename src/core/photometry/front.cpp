#include "cinnabar/photometry/front.h"

#include <algorithm>
#include <cmath>
#include <deque>
#include <mutex>

#include "cinnabar/base/vec.h"
#include "cinnabar/photometry/modifiers.h"
#include "cinnabar/photometry/sources.h"

namespace cinnabar {

namespace {

constexpr int along_table = 24;  // cells of a quarter's table each way
constexpr std::size_t table_row = along_table + 1;

/// A sum over a face by even parts: of a rectangle its cells, of a disc rings and rays of like area.
template <class Value>
double mean_over(const FrontFace& face, int n, const Value& value) {
  double sum = 0.0;
  for (int i = 0; i < n; ++i)
    for (int j = 0; j < n; ++j) {
      const double a = (i + 0.5) / n, b = (j + 0.5) / n;
      if (face.round) {
        const double r = face.half_width * std::sqrt(a), turn = 2 * pi * b;
        sum += value(r * std::cos(turn), r * std::sin(turn));
      } else {
        sum += value((2 * a - 1) * face.half_width, (2 * b - 1) * face.half_height);
      }
    }
  return sum / (static_cast<double>(n) * n);
}

}  // namespace

std::span<const FrontMeasure> front_measures(FrontKind kind) {
  using F = LightFront;
  static constexpr FrontMeasure cloth[]{{"gap", &F::gap},
                                        {"exponent", &F::exponent},
                                        {"forward", &F::forward},
                                        {"lobe_deg", &F::lobe_deg},
                                        {"baffle", &F::baffle}},
      beads[]{
          {"pitch", &F::pitch}, {"bead_radius", &F::bead_radius}, {"exponent", &F::exponent}, {"gap", &F::gap}},
      lens[]{{"source_radius", &F::source_radius}, {"focal", &F::focal}, {"distance", &F::distance}},
      tube[]{{"length", &F::length}, {"mouth_radius", &F::mouth_radius}},
      gate[]{{"gate_width", &F::gate_width},
             {"gate_height", &F::gate_height},
             {"focal", &F::focal},
             {"distance", &F::distance}};
  switch (kind) {
    case FrontKind::cloth:
      return cloth;
    case FrontKind::beads:
      return beads;
    case FrontKind::lens:
      return lens;
    case FrontKind::tube:
      return tube;
    case FrontKind::gate:
      break;
  }
  return gate;
}

FrontEmission::FrontEmission(const LightFront& front, const FrontFace& face) : front_(front), face_(face) {
  if (face_.round) face_.half_height = face_.half_width;
  // What is a thousandth of the face or less is taken for that: nobody builds it, and its light has no end.
  const double least = 1e-3 * std::min(face_.half_width, face_.half_height);
  for (double* size :
       {&front_.source_radius, &front_.focal, &front_.distance, &front_.gate_width, &front_.gate_height})
    *size = std::max(*size, least);
  for (double* size : {&front_.gap, &front_.baffle})
    if (*size > 0.0) *size = std::max(*size, least);
  lobe_ = std::max(1.0, std::log(0.5) / std::log(std::cos(radians(std::clamp(front_.lobe_deg, 1.0, 60.0)))));
  reach_x_ = face_.half_width, reach_y_ = face_.half_height;
  const double radius = face_.half_width;
  switch (front_.kind) {
    case FrontKind::cloth:
      if (front_.gap > 0.0) spread_hot_spot();
      if (front_.baffle > 0.0) spread_inner();
      break;
    case FrontKind::beads:
      if (front_.bead_radius <= 0.0) front_.bead_radius = front_.pitch / 4;
      front_.bead_radius = std::clamp(front_.bead_radius, front_.pitch / 50, front_.pitch / 2);
      if (front_.gap > 0.0) spread_beads();
      break;
    case FrontKind::lens: {
      // The lamp's luminance against that of a face as large as the lens; of all its light no more than there is.
      const double wide = radius / front_.source_radius, near = front_.distance / radius;
      scale_ = wide * wide * std::min(1.0, near * near);
      break;
    }
    case FrontKind::tube:
      break;
    case FrontKind::gate: {
      const double near = front_.distance / radius;
      scale_ = pi * radius * radius / (front_.gate_width * front_.gate_height) * std::min(1.0, near * near);
      break;
    }
  }
  ahead_ = front_.kind == FrontKind::beads
               ? (front_.gap > 0.0 ? 1.0 : (front_.exponent + 1) / 2)
               : mean_over(face_, 96, [this](double x, double y) { return at(x, y, 0.0, 0.0); });
}

FrontEmission::FrontEmission(const FrontFace& face, std::function<double(double, double)> by_direction)
    : face_(face), by_direction_(std::move(by_direction)) {
  ahead_ = by_direction_(0.0, 0.0);
}

bool FrontEmission::inside(double x, double y) const {
  return face_.round ? x * x + y * y <= face_.half_width * face_.half_width
                     : std::abs(x) <= face_.half_width && std::abs(y) <= face_.half_height;
}

/// A point lamp's light on the cloth, before it is scaled to the face's lumens.
double FrontEmission::hot_spot(double x, double y) const {
  const double near = 1 + (x * x + y * y) / (front_.gap * front_.gap);
  return std::pow(near, -(front_.exponent + 3) / 2);
}

void FrontEmission::spread_hot_spot() {
  const double gap = front_.gap, half = (front_.exponent + 3) / 2;
  double mean = 0.0;
  if (face_.round) {
    const double across = face_.half_width / gap;
    mean = -std::expm1((1 - half) * std::log1p(across * across)) / ((half - 1) * across * across);
  } else {
    // By equal angles from the lamp, under which it is as smooth near the middle as far out.
    constexpr int n = 64;
    const double a = std::atan(face_.half_width / gap), b = std::atan(face_.half_height / gap);
    for (int i = 0; i < n; ++i)
      for (int j = 0; j < n; ++j) {
        const double x = gap * std::tan(a * (i + 0.5) / n), y = gap * std::tan(b * (j + 0.5) / n);
        mean += hot_spot(x, y) * (1 + x * x / gap / gap) * (1 + y * y / gap / gap);
      }
    mean *= a * b * gap * gap / (n * static_cast<double>(n)) / (face_.half_width * face_.half_height);
  }
  scale_ = 1.0 / mean;
}

/// The outer cloth, lit by the inner one as by a face of its own: a table over a quarter of it.
void FrontEmission::spread_inner() {
  const double deep = front_.baffle;
  const bool even = front_.gap <= 0.0;
  const auto lit = [&](double x, double y) {
    if (even && !face_.round) {
      const double w = face_.half_width, h = face_.half_height;
      const Vec3 corners[]{{-w, -h, 0}, {w, -h, 0}, {w, h, 0}, {-w, h, 0}};
      return polygon_illuminance(1.0 / pi, corners, {x, y, deep}, {0, 0, -1});
    }
    constexpr int n = 32;  // directions even in the cosine-weighed half ball
    double sum = 0.0;
    for (int i = 0; i < n; ++i)
      for (int j = 0; j < n; ++j) {
        const double share = (i + 0.5) / n, turn = 2 * pi * (j + 0.5) / n;
        const double far = deep * std::sqrt(share / (1 - share));
        const double px = x + far * std::cos(turn), py = y + far * std::sin(turn);
        if (inside(px, py)) sum += even ? 1.0 : hot_spot(px, py);
      }
    return sum / (n * static_cast<double>(n));
  };
  std::vector<double> rows;
  for (int j = 0; j <= along_table; ++j)
    for (int i = 0; i <= along_table; ++i)
      rows.push_back(lit(reach_x_ * i / along_table, reach_y_ * j / along_table));
  quarter_ = std::move(rows);
  scale_ = 1.0;
  scale_ = 1.0 / mean_over(face_, 96, [this](double x, double y) { return table(x, y); });
}

/// Beads behind a sheet, each a point: a table over a quarter of a cell, one bead at its corner.
void FrontEmission::spread_beads() {
  const double gap = std::max(front_.gap, 0.1 * front_.pitch) / front_.pitch;
  const double power = -(front_.exponent + 3) / 2;
  // Bead by bead as far as one adds a thousandth of the brightest; what farther ones add is alike everywhere, and
  // is what is missing to the mean of them all.
  const double reach = gap * std::sqrt(std::expm1(std::log(1e-3) / power));
  const int far = std::min(24, static_cast<int>(reach) + 1);
  std::vector<double> rows;
  for (int j = 0; j <= along_table; ++j)
    for (int i = 0; i <= along_table; ++i) {
      const double x = 0.5 * i / along_table, y = 0.5 * j / along_table;
      rows.push_back(beads_near(front_.exponent, gap, far, x, y));
    }
  quarter_ = std::move(rows);
  reach_x_ = reach_y_ = front_.pitch / 2;
  const FrontFace cell{false, front_.pitch / 2, front_.pitch / 2};
  const double mean = 2 * pi * gap * gap / (front_.exponent + 1),
               near = mean_over(cell, 96, [this](double x, double y) { return table(x, y); });
  for (double& value : quarter_) value += mean - near;
  scale_ = 1.0 / mean;
}

double FrontEmission::table(double x, double y) const {
  const double i = std::min(1.0, std::abs(x) / reach_x_) * along_table,
               j = std::min(1.0, std::abs(y) / reach_y_) * along_table;
  const auto a = std::min<std::size_t>(static_cast<std::size_t>(i), along_table - 1),
             b = std::min<std::size_t>(static_cast<std::size_t>(j), along_table - 1);
  const double s = i - static_cast<double>(a), t = j - static_cast<double>(b);
  const double* low = &quarter_[b * table_row + a];
  const double* high = low + table_row;
  return (low[0] * (1 - s) + low[1] * s) * (1 - t) + (high[0] * (1 - s) + high[1] * s) * t;
}

double FrontEmission::cloth(double x, double y, double u, double v) const {
  const double here = !quarter_.empty() ? table(x, y) : front_.gap > 0.0 ? hot_spot(x, y) : 1.0;
  // What an inner cloth throws comes from all sides: no ray is left to go on along.
  if (front_.forward <= 0.0 || front_.gap <= 0.0 || front_.baffle > 0.0) return here * scale_;
  const double seen = 1.0 / std::sqrt(1 + u * u + v * v);
  const double along = std::sqrt(1 + (x * x + y * y) / (front_.gap * front_.gap));
  const double alpha = (1 + (x * u + y * v) / front_.gap) * seen / along;  // cosine between ray and direction
  constexpr double least_seen = 0.02;  // near grazing it would be endlessly bright
  const double lobe =
      alpha > 0.0 ? (lobe_ + 1) * std::pow(std::min(1.0, alpha), lobe_) / (2 * std::max(least_seen, seen)) : 0.0;
  return here * scale_ * (1 - front_.forward + front_.forward * lobe);
}

double FrontEmission::at(double x, double y, double u, double v) const {
  if (by_direction_) return by_direction_(u, v);
  switch (front_.kind) {
    case FrontKind::cloth:
      return cloth(x, y, u, v);
    case FrontKind::beads: {
      const double px = x - front_.pitch * std::round(x / front_.pitch),
                   py = y - front_.pitch * std::round(y / front_.pitch);
      if (!quarter_.empty()) return scale_ * table(px, py);
      const double r = front_.bead_radius;
      if (px * px + py * py > r * r) return 0.0;
      return front_.pitch * front_.pitch / (pi * r * r) * (front_.exponent + 1) / 2 *
             std::pow(1 + u * u + v * v, (1 - front_.exponent) / 2);
    }
    case FrontKind::lens: {
      // Back through the lens the ray has to meet the lamp's image, as large as the lamp is near.
      const double power = 1 / front_.distance - 1 / front_.focal, limit = front_.source_radius / front_.distance;
      const double a = x * power - u, b = y * power - v;
      return a * a + b * b <= limit * limit ? scale_ : 0.0;
    }
    case FrontKind::tube: {
      const double a = x + u * front_.length, b = y + v * front_.length;
      return a * a + b * b <= front_.mouth_radius * front_.mouth_radius ? 1.0 : 0.0;
    }
    case FrontKind::gate: {
      const double through = 1 - front_.distance / front_.focal;
      const double a = x * through - u * front_.distance, b = y * through - v * front_.distance;
      return 2 * std::abs(a) <= front_.gate_width && 2 * std::abs(b) <= front_.gate_height ? scale_ : 0.0;
    }
  }
  return 1.0;
}

double FrontEmission::evened(double x, double y, double u, double v) const {
  if (front_.kind != FrontKind::beads) return at(x, y, u, v);
  if (!quarter_.empty()) return 1.0;
  return (front_.exponent + 1) / 2 * std::pow(1 + u * u + v * v, (1 - front_.exponent) / 2);
}

std::pair<double, double> FrontEmission::seen_from(double x, double y, double z) const {
  if (z <= 0.0) return {1.0, 1.0};
  double sum = 0, sx = 0, sy = 0, sxx = 0, syy = 0;
  mean_over(face_, 48, [&](double px, double py) {
    const double w = at(px, py, (x - px) / z, (y - py) / z);
    sum += w, sx += w * px, sy += w * py, sxx += w * px * px, syy += w * py * py;
    return w;
  });
  if (sum <= 0.0) return {1.0, 1.0};
  const auto spread_over = [&](double first, double second, double half) {
    const double spread = std::max(0.0, second / sum - first / sum * (first / sum));
    return std::clamp(std::sqrt(spread * (face_.round ? 4.0 : 3.0)) / half, 0.0, 1.0);
  };
  return {spread_over(sx, sxx, face_.half_width), spread_over(sy, syy, face_.half_height)};
}

std::shared_ptr<const FrontEmission> front_emission(const LightFront& front, const FrontFace& face) {
  struct Known {
    LightFront front;
    FrontFace face;
    std::shared_ptr<const FrontEmission> emission;
  };
  constexpr std::size_t most = 64;
  static std::mutex lock;
  static std::deque<Known> known;
  const auto same = [&](const Known& one) { return one.front == front && one.face == face; };
  {
    const std::lock_guard held(lock);
    if (const auto found = std::find_if(known.begin(), known.end(), same); found != known.end())
      return found->emission;
  }
  auto made = std::make_shared<const FrontEmission>(front, face);
  const std::lock_guard held(lock);
  known.push_front({front, face, made});
  if (known.size() > most) known.pop_back();
  return made;
}

}  // namespace cinnabar
