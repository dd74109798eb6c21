#include "cinnabar/formats/animatic.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <filesystem>

#include "cinnabar/base/files.h"
#include "cinnabar/base/hashed.h"
#include "cinnabar/base/text.h"
#include "cinnabar/formats/pictures.h"
#include "cinnabar/formats/sound_marks.h"
#include "cinnabar/formats/video.h"
#include "cinnabar/scene/effects_staged.h"
#include "cinnabar/scene/view.h"

namespace cinnabar {
namespace {

namespace fs = std::filesystem;
using Bytes = FramePictures::Bytes;

double rate_of(const Project& project, const AnimaticOptions& options) {
  return options.rate.value_or(project.timeline_rate);
}
double length_of(const Project& project, const AnimaticOptions& options) {
  return options.shot ? project.shots[*options.shot]->screen_time : project.screen_time();
}
/// Pictures of a try that was stopped, of the same project at the same size.
class KeptPictures {
 public:
  KeptPictures(const std::string& path, std::string of) : folder_(path + ".frames"), of_(std::move(of)) {
    const auto known = read_file((folder_ / "of").string(), 1000);
    ours_ = known && known->starts_with("pictures of a film: ");
    same_ = known && *known == of_;
  }
  [[nodiscard]] std::optional<Bytes> find(long k, int width, int height) const {
    if (!same_) return std::nullopt;
    auto rgb = read_png(name(k), width, height);
    return rgb ? std::optional(*std::move(rgb)) : std::nullopt;
  }
  void put(long k, int width, int height, const Bytes& rgb) {
    std::error_code ignored;  // what cannot be kept is traced once more
    if (!same_) {
      clear();
      ours_ = same_ = fs::create_directory(folder_, ignored) && write_file((folder_ / "of").string(), of_);
    }
    if (same_) (void)write_png(name(k), width, height, rgb);
  }
  /// Only what was put there: a folder of somebody's own stays as it is.
  void clear() const {
    std::error_code ignored;
    if (!ours_) return;
    for (const auto& entry : fs::directory_iterator(folder_, ignored))
      if (entry.path().extension() == ".png" || entry.path().filename() == "of") fs::remove(entry.path(), ignored);
    fs::remove(folder_, ignored);
  }

 private:
  [[nodiscard]] std::string name(long k) const { return (folder_ / fmt::format("{:06}.png", k)).string(); }
  fs::path folder_;
  std::string of_;
  bool ours_ = false, same_ = false;
};

/// Beats, cuts and moments of effects, where the film has them.
std::vector<float> sound_of(const Project& project, const AnimaticOptions& options, double length, int rate) {
  std::vector<float> sound(static_cast<std::size_t>(std::llround(length * rate)));
  const auto mark = [&](double at, const Tone& tone) { add_mark(sound, rate, at, tone); };
  const double begins = options.shot ? project.starts_at(*options.shot) : 0.0;
  if (project.beats_per_minute) {
    const double beat = 60.0 / *project.beats_per_minute;
    for (double k = std::ceil(begins / beat - 1e-9); k * beat < begins + length; ++k)
      mark(k * beat - begins, {beat_hertz, 0.012, 0.25});
  }
  for (std::size_t i = 0; i < project.shots.size(); ++i) {
    if (options.shot && *options.shot != i) continue;
    const Shot& shot = *project.shots[i];
    const double start = project.starts_at(i) - begins;
    mark(start, {cut_hertz, 0.03, 0.35});
    for (const ToldEffect& told : told_effects(project, shot))
      for (const EffectEvent& event : told.outcome ? told.outcome->events : std::vector<EffectEvent>{})
        if (const double at = shot.clock.screen_at(event.at); event.at >= 0.0 && at < shot.screen_time)
          mark(start + at, {event_hertz, 0.02, 0.3});
  }
  return sound;
}

/// What a kept picture is of: another project, size, rate or number of passes is not gone on from.
std::string fingerprint(const std::string& project, const AnimaticOptions& o, double rate) {
  return fmt::format("pictures of a film: {:016x} {}x{} {} {} {}", folded(project), o.width, o.height, rate,
                     o.passes, o.shot ? std::to_string(*o.shot) : "all");
}

}  // namespace

std::optional<FilmFrame> animatic_frame(const Project& project, const AnimaticOptions& options, long k) {
  const double rate = rate_of(project, options), t = static_cast<double>(k) / rate;
  std::size_t i = options.shot.value_or(0);
  double from = 0;
  if (!options.shot)
    for (; i < project.shots.size() && t >= from + project.shots[i]->screen_time - 1e-9; ++i)
      from += project.shots[i]->screen_time;
  if (k < 0 || i >= project.shots.size() || t - from >= project.shots[i]->screen_time - 1e-9) return std::nullopt;
  return film_frame(project, i, std::max(0.0, t - from));
}

Expected<AnimaticMade> write_animatic(const Project& project, const std::string& path,
                                      const AnimaticOptions& options) {
  const double rate = rate_of(project, options), length = length_of(project, options);
  if (project.shots.empty()) return fail(project.name, "has no shots", "add a shot first", Fault::input);
  if (length > 600.0)
    return fail(project.name, "is over ten minutes long", "ask for one shot of it", Fault::input);
  if (options.passes < 1 || options.passes > 64) return fail("passes", "are out of range", "give 1 to 64");
  for (std::size_t i = 0; i < project.shots.size(); ++i)
    if (!project.shots[i]->camera && (!options.shot || *options.shot == i))
      return fail(name_or(project.shots[i]->name, project.shots[i]->id), "has no camera",
                  "give it one on the Stage", Fault::input);
  const VideoForm form{options.width, options.height, rate, 48000};
  auto video = Video::begin(path, form);
  if (!video) return tl::unexpected(video.error());
  AnimaticMade made;
  while (animatic_frame(project, options, made.frames)) ++made.frames;
  made.seconds = static_cast<double>(made.frames) / rate;
  const std::vector<float> sound = sound_of(project, options, made.seconds, form.sound_rate);
  KeptPictures kept(path, fingerprint(options.of, options, rate));
  FramePictures pictures(project, {options.width, options.height, options.passes, options.passes > 1 ? 4 : 1},
                         options.cancel);
  Bytes rgb;
  std::optional<FilmFrame> before;
  std::size_t heard = 0;
  for (long k = 0; k < made.frames; ++k) {
    const FilmFrame frame = *animatic_frame(project, options, k);
    const bool again = before && before->shot == frame.shot && before->set == frame.set;
    if (!again) {
      if (auto old = kept.find(k, options.width, options.height)) {
        rgb = *std::move(old);
      } else {
        auto traced = pictures.of(frame);
        if (!traced)
          return fail(path, "was stopped", "ask for the same again: it goes on from there", Fault::output);
        rgb = *std::move(traced);
        ++made.traced;
        kept.put(k, options.width, options.height, rgb);
      }
    }
    before = frame;
    if (const auto added = video->add_picture(rgb); !added) return tl::unexpected(added.error());
    const std::size_t till = std::min(
        sound.size(), static_cast<std::size_t>(std::llround(static_cast<double>(k + 1) / rate * form.sound_rate)));
    if (const auto added = video->add_sound(std::span(sound).subspan(heard, till - heard)); !added)
      return tl::unexpected(added.error());
    heard = till;
    if (options.progress) options.progress(k + 1, made.frames);
  }
  if (const auto whole = video->keep(); !whole) return tl::unexpected(whole.error());
  kept.clear();
  return made;
}

}  // namespace cinnabar
