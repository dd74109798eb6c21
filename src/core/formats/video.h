// Video out: pictures and sound as they come, into MP4 (H.264, AAC) or WebM (VP9, Opus).
#pragma once
#include <cstdint>
#include <memory>
#include <span>
#include <string>
#include <vector>

#include "cinnabar/base/result.h"

namespace cinnabar {

struct VideoForm {
  int width = 640, height = 360;  ///< even, 16 to 8192
  double rate = 24;               ///< pictures a second; kept as a fraction of whole numbers
  int sound_rate = 48000;         ///< samples a second, one channel
};

/// A film being written. What was there under the name stays until `keep()`; dropped before, nothing is left.
class Video {
 public:
  /// The kind goes by the name's ending, .mp4 or .webm. Fails where the name, the size or the folder will not do.
  [[nodiscard]] static Expected<Video> begin(const std::string& path, const VideoForm& form);
  Video(Video&&) noexcept;
  Video& operator=(Video&&) = delete;
  ~Video();

  /// The next picture: 8-bit sRGB, three bytes a pixel from the top left.
  [[nodiscard]] Expected<void> add_picture(const std::vector<std::uint8_t>& rgb);
  /// The next samples, -1 to 1.
  [[nodiscard]] Expected<void> add_sound(std::span<const float> samples);
  /// The end: everything is written and put in its place.
  [[nodiscard]] Expected<void> keep();

 private:
  struct Writing;
  explicit Video(std::unique_ptr<Writing> writing);
  std::unique_ptr<Writing> writing_;
};

}  // namespace cinnabar
