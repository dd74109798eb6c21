#include "cinnabar/devices/strayed.h"

#include <algorithm>
#include <cmath>

#include "cinnabar/formats/motion_program.h"
#include "cinnabar/scene/form.h"
#include "cinnabar/scene/view.h"

namespace cinnabar {
namespace {

/// The camera as its axes really stood: moved along the world's or the slider's directions, turned about the
/// vertical and then about its own level right.
CameraPose moved(CameraPose pose, const AxisPlaces& off, bool on_slider, const Shot& shot) {
  const Vec3 slide = unit(shot.camera->slide_axis.value_or(Vec3{1, 0, 0}));
  pose.place += (on_slider ? slide * off[0] : Vec3{off[0], off[1], off[2]}) * 1e-3;
  Facing& f = pose.frame;
  for (Vec3* v : {&f.right, &f.up, &f.ahead}) *v = turned(*v, -off[4]);
  Vec3 level = cross(f.ahead, Vec3{0, 1, 0});
  level = length(level) < 1e-9 ? f.right : unit(level);
  for (Vec3* v : {&f.right, &f.up, &f.ahead}) *v = rotated(*v, level, radians(off[3]));
  return pose;
}

/// The plan of a shot, asked at many moments.
class Plan {
 public:
  Plan(const Project& project, const Shot& shot)
      : project_(project), shot_(shot), axes_(driven_axes(shot)), optics_(shot_optics(project, shot)) {
    if (shot_.camera) shot_.camera->shake.reset();  // no motor shakes
    const auto moves = [&](Tracked what) {
      const KeyedTrack* track = shot.track(what);
      return track && track->keys.size() > 1;
    };
    on_slider_ = moves(Tracked::camera_slide) && !moves(Tracked::camera_place);
    for (const ShotProduct& placed : shot.products)
      if (const Product* product = by_id(project.products, placed.product)) {
        std::vector<Vec3> points;
        for (const Part& part : product->parts)
          for (const ProfilePoint& at : part.profile)
            for (const RimPoint& edge : rim(part, at, 8)) points.push_back(edge.at);
        bodies_.emplace_back(placed, std::move(points));
      }
  }
  [[nodiscard]] const std::vector<DrivenAxis>& axes() const { return axes_; }
  [[nodiscard]] AxisPlaces off(double t, const AxisPlaces& places) const {
    AxisPlaces out{};
    for (const DrivenAxis& axis : axes_) {
      const std::size_t a = axis_letters.find(axis.letter);
      out[a] = places[a] - axis.at(t);
    }
    return out;
  }
  [[nodiscard]] double px(double t, const AxisPlaces& off) const {
    if (!shot_.camera) return 0.0;
    const CameraPose planned = camera_at(shot_, t), real = moved(planned, off, on_slider_, shot_);
    double most = 0.0;
    const auto both = [&](const Vec3& asked, const Vec3& was) {
      const auto a = image_of(planned, asked), b = image_of(real, was);
      if (!a || !b || std::abs(a->x) > 0.5 * optics_.sensor_width || std::abs(a->y) > 0.5 * optics_.sensor_height)
        return;
      most = std::max(most, std::hypot(a->x - b->x, a->y - b->y) / optics_.pitch);
    };
    const Vec3 focused = planned.place + planned.frame.ahead * planned.focus;
    both(focused, focused);
    for (const auto& [placed, points] : bodies_) {
      const ProductPose pose = product_at(project_, shot_, placed, t);
      const bool turns = off[5] != 0.0 && on_turntable(project_, shot_, placed);
      for (const Vec3& own : points) {
        const Vec3 at = pose.world(own);
        both(at, turns ? turned(at, off[5]) : at);
      }
    }
    return most;
  }

 private:
  const Project& project_;
  Shot shot_;
  std::vector<DrivenAxis> axes_;
  ShotOptics optics_;
  bool on_slider_ = false;
  std::vector<std::pair<ShotProduct, std::vector<Vec3>>> bodies_;
};

/// Squared distance of all reports from the plan, as if they had been made so much sooner; angles as at 1 m.
double apart(const Plan& plan, const std::vector<ReportedPlaces>& reports, double behind, double end) {
  double sum = 0.0;
  for (const ReportedPlaces& report : reports) {
    const AxisPlaces off = plan.off(std::clamp(report.set_time - behind, 0.0, end), report.places);
    for (const DrivenAxis& axis : plan.axes()) {
      const double by = axis.base(off[axis_letters.find(axis.letter)]);
      sum += by * by;
    }
  }
  return sum;
}

}  // namespace

StrayedRun strayed(const Project& project, const Shot& shot, const std::vector<ReportedPlaces>& reports) {
  StrayedRun out;
  const Plan plan(project, shot);
  const double end = shot.set_time();
  std::vector<ReportedPlaces> within;
  for (const ReportedPlaces& report : reports)
    if (report.set_time >= 0.0 && report.set_time <= end) within.push_back(report);
  if (plan.axes().empty() || within.empty()) return out;
  // From coarse to fine about the best so far.
  double step = 0.05;
  for (const double span : {0.25, 0.05, 0.01, 0.002}) {
    double best = out.behind, least = apart(plan, within, best, end);
    for (double by = -span; by <= span + 1e-9; by += step)
      if (const double sum = apart(plan, within, out.behind + by, end); sum < least)
        least = sum, best = out.behind + by;
    out.behind = std::clamp(best, -0.25, 0.25);
    step *= 0.2;
  }
  for (const ReportedPlaces& report : within) {
    const AxisPlaces off = plan.off(report.set_time, report.places);
    out.moments.push_back({report.set_time, off, plan.px(report.set_time, off)});
    if (out.moments.back().px > out.worst_px) out.worst_px = out.moments.back().px, out.worst_at = report.set_time;
    const double then = report.set_time - out.behind;
    if (then >= 0.0 && then <= end)
      out.worst_px_shifted = std::max(out.worst_px_shifted, plan.px(then, plan.off(then, report.places)));
  }
  return out;
}

}  // namespace cinnabar
