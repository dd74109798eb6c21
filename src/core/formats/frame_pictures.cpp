#include "cinnabar/formats/frame_pictures.h"

#include <algorithm>
#include <cmath>

#include "cinnabar/render/carried.h"
#include "cinnabar/render/filter.h"
#include "cinnabar/render/tracer.h"
#include "cinnabar/scene/staged.h"
#include "cinnabar/scene/view.h"

namespace cinnabar {
namespace {

constexpr int widest_film = 2560, most_passes_of_still = 16;
constexpr double longest_gap = 0.25;  // s on screen: frames farther apart have little of one another

/// Whether one world serves the whole shot.
bool stands_still(const Shot& shot) { return shot.tracks.empty() && shot.effects.empty(); }

}  // namespace

/// What of a recording is shown, as shares of it from its top left.
struct ShownPart {
  double left = 0, top = 0, width = 1, height = 1;
  int turned = 0;  ///< as ShotOptics has it: a camera on its side is looked at upright

  /// Where a place of the picture, as shares from its top left, lies in the recording.
  [[nodiscard]] std::pair<float, float> at(double u, double v) const {
    const double x = turned > 0 ? 1.0 - v : turned < 0 ? v : u, y = turned > 0 ? u : turned < 0 ? 1.0 - u : v;
    return {static_cast<float>(left + width * x), static_cast<float>(top + height * y)};
  }
};

namespace {
/// The largest part with the picture's shape within the crop.
ShownPart part_shown(const FrameForm& form, const ShotOptics& optics, const Vec3& crop) {
  Deliverable shape;
  shape.width = form.width, shape.height = form.height;
  const auto [across, upright] = delivered_frame(shape, optics);
  const bool turned = optics.turned != 0;
  ShownPart part;
  part.turned = optics.turned;
  part.width = crop.z * (turned ? upright : across) / optics.sensor_width;
  part.height = crop.z * (turned ? across : upright) / optics.sensor_height;
  part.left = crop.x + 0.5 * (crop.z - part.width), part.top = crop.y + 0.5 * (crop.z - part.height);
  return part;
}
}  // namespace

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
    std::vector<char> traced;  // what stands in the room is known from the frames before
    if (!still) {
      tracer_->look(film_, only_.empty() ? nullptr : &only_);
      traced = carried_.to_trace(film_, tracer_->world());
      for (std::size_t i = 0; i < only_.size(); ++i) traced[i] = static_cast<char>(traced[i] && only_[i]);
    }
    const std::vector<char>& only = still ? only_ : traced;
    while (film_.passes < wanted)
      if (!tracer_->add_pass(film_, cancel_, nullptr, only.empty() ? nullptr : &only)) {
        tracer_.reset();  // the film is of no use then
        return std::nullopt;
      }
    const StagedWorld& world = tracer_->world();
    Picture picture = mixed(film_, layer_weights(world));
    if (still) {
      picture = filtered(picture, film_, film_.passes < 8 ? 3 : 2);
    } else {
      picture = carried_.with(picture, film_, world, &traced);
      picture = carried_.outlined(filtered(picture, film_, 3, &carried_.noise_left()), film_);
    }
    bytes_ = developed(cut(picture), signal_per_luminance(world.camera));
    return bytes_;
  }

  void begin(const Shot& shot, const FilmFrame& frame, bool still) {
    if (shot_ != frame.shot || std::abs(frame.screen - screen_) > longest_gap) carried_.forget();
    shot_ = frame.shot, screen_ = frame.screen;
    const auto world =
        std::make_shared<const StagedWorld>(stage(project_, shot, frame.set, {.motion = !still, .segments = 64}));
    tracer_ = std::make_unique<Tracer>(world);
    const ShotOptics& optics = world->camera.optics;
    part_ = part_shown(form_, optics, crop_at(shot, frame.set).value_or(Vec3{0, 0, 1}));
    const int across = part_.turned ? form_.height : form_.width;
    const int width = std::clamp(static_cast<int>(std::lround(across / part_.width)), 16, widest_film),
              height =
                  std::clamp(static_cast<int>(std::lround(width * optics.sensor_height / optics.sensor_width)), 9,
                             4 * widest_film);
    film_ = tracer_->film(width, height, Caustics::by_photons);
    film_.ways = form_.ways;
    if (!still) film_.begins = carried_.passes();
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
    if (only_.empty() && !part_.turned && whole.width == form_.width && whole.height == form_.height) return whole;
    Picture out{form_.width, form_.height, {}};
    out.pixels.reserve(static_cast<std::size_t>(out.width) * static_cast<std::size_t>(out.height));
    for (int y = 0; y < out.height; ++y)
      for (int x = 0; x < out.width; ++x) {
        const auto [u, v] = part_.at((x + 0.5) / out.width, (y + 0.5) / out.height);
        out.pixels.push_back(whole.sample(u, v));
      }
    return out;
  }

  const Project& project_;
  FrameForm form_;
  const std::atomic<bool>* cancel_;
  std::size_t shot_ = 0;
  double screen_ = 0;  ///< of the last frame
  CarriedLight carried_;
  std::unique_ptr<Tracer> tracer_;
  Film film_;
  ShownPart part_;
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
