#include "cinnabar/formats/frame_pictures.h"

#include <algorithm>
#include <cmath>

#include "cinnabar/render/tracer.h"
#include "cinnabar/scene/staged.h"
#include "cinnabar/scene/view.h"

namespace cinnabar {
namespace {

constexpr int widest_film = 2560, most_passes_of_still = 16;

/// Whether one world serves the whole shot.
bool stands_still(const Shot& shot) { return shot.tracks.empty() && shot.effects.empty(); }

}  // namespace

/// What of a recording is shown.
namespace shown_parts {

/// The largest part of the recording with the picture's shape within the crop, as shares of the recording.
struct Part {
  double left = 0, top = 0, width = 1, height = 1;
};
inline Part part_shown(const Vec3& crop, double recorded_aspect, double aspect) {
  Part part;
  part.width = part.height = crop.z;
  if (aspect >= recorded_aspect)
    part.height *= recorded_aspect / aspect;
  else
    part.width *= aspect / recorded_aspect;
  part.left = crop.x + 0.5 * (crop.z - part.width), part.top = crop.y + 0.5 * (crop.z - part.height);
  return part;
}

}  // namespace shown_parts

/// One shot's world, kept while it stays the same.
struct FramePictures::Tracing {
  Tracing(const Project& project, const FrameForm& form, const std::atomic<bool>* cancel)
      : project_(project), form_(form), cancel_(cancel) {}

  /// The picture of a frame; nothing when it was cancelled.
  std::optional<Bytes> picture(const FilmFrame& frame) {
    const Shot& shot = *project_.shots[frame.shot];
    const bool still = stands_still(shot);
    if (!(still && shot_ == frame.shot && tracer_)) begin(shot, frame, still);
    const int wanted = std::min(most_passes_of_still, film_.passes + form_.passes);
    if (still && film_.passes >= most_passes_of_still) return bytes_;
    while (film_.passes < wanted)
      if (!tracer_->add_pass(film_, cancel_, nullptr, only_.empty() ? nullptr : &only_)) {
        tracer_.reset();  // the film is of no use then
        return std::nullopt;
      }
    const StagedWorld& world = tracer_->world();
    const Picture calm = filtered(mixed(film_, layer_weights(world)), film_, film_.passes < 8 ? 3 : 2);
    bytes_ = developed(cut(calm), signal_per_luminance(world.camera));
    return bytes_;
  }

  void begin(const Shot& shot, const FilmFrame& frame, bool still) {
    shot_ = frame.shot;
    const auto world =
        std::make_shared<const StagedWorld>(stage(project_, shot, frame.set, {.motion = !still, .segments = 64}));
    tracer_ = std::make_unique<Tracer>(world);
    const double recorded = world->camera.optics.sensor_width / world->camera.optics.sensor_height,
                 aspect = static_cast<double>(form_.width) / form_.height;
    part_ = shown_parts::part_shown(crop_at(shot, frame.set).value_or(Vec3{0, 0, 1}), recorded, aspect);
    const int width = std::clamp(static_cast<int>(std::lround(form_.width / part_.width)), 16, widest_film),
              height = std::clamp(static_cast<int>(std::lround(width / recorded)), 9, 4 * widest_film);
    film_ = tracer_->film(width, height, Caustics::by_photons);
    film_.ways = form_.ways;
    only_.clear();
    if (part_.width > 0.999 && part_.height > 0.999) return;
    // A little more than what is shown, for the filter at its edges.
    only_.assign(film_.pixels(), 0);
    constexpr int margin = 8;
    const auto from = [](double at, int size) { return std::max(0, static_cast<int>(at * size) - margin); };
    const auto to = [](double at, int size) { return std::min(size, static_cast<int>(at * size) + margin + 1); };
    for (int y = from(part_.top, height); y < to(part_.top + part_.height, height); ++y)
      for (int x = from(part_.left, width); x < to(part_.left + part_.width, width); ++x)
        only_[film_.at(x, y)] = 1;
  }
  [[nodiscard]] Picture cut(const Picture& whole) const {
    if (only_.empty() && whole.width == form_.width && whole.height == form_.height) return whole;
    Picture out{form_.width, form_.height, {}};
    out.pixels.reserve(static_cast<std::size_t>(out.width) * static_cast<std::size_t>(out.height));
    for (int y = 0; y < out.height; ++y)
      for (int x = 0; x < out.width; ++x)
        out.pixels.push_back(whole.sample(static_cast<float>(part_.left + part_.width * (x + 0.5) / out.width),
                                          static_cast<float>(part_.top + part_.height * (y + 0.5) / out.height)));
    return out;
  }

  const Project& project_;
  FrameForm form_;
  const std::atomic<bool>* cancel_;
  std::size_t shot_ = 0;
  std::unique_ptr<Tracer> tracer_;
  Film film_;
  shown_parts::Part part_;
  std::vector<char> only_;
  Bytes bytes_;
};

FramePictures::FramePictures(const Project& project, const FrameForm& form, const std::atomic<bool>* cancel)
    : tracing_(std::make_unique<Tracing>(project, form, cancel)) {}
FramePictures::~FramePictures() = default;
std::optional<FramePictures::Bytes> FramePictures::of(const FilmFrame& frame) {
  return tracing_->project_.shots[frame.shot]->camera ? tracing_->picture(frame) : std::nullopt;
}

FilmFrame film_frame(const Project& project, std::size_t shot, double screen) {
  const Shot& of = *project.shots[shot];
  const double capture = shot_optics(project, of).rate;
  return {shot, screen, static_cast<double>(recorded_frame(of.clock, screen, capture)) / capture};
}

}  // namespace cinnabar
