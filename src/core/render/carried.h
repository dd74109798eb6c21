// Pictures of a film, one after another: what falls on things is carried on from frame to frame where it can still
// be seen, so that a few passes a frame do for calm pictures.
#pragma once
#include <optional>
#include <vector>

#include "cinnabar/render/film.h"

namespace cinnabar {

/// For the frames of one shot in their order. Each place of a frame is looked up in the frame before by where it
/// is in the world (of a product that is carried, where it was then); what was there counts if it is the same
/// body, turned alike and as far from the lens, and it is held to what its neighbours now say it could be (the
/// mean of the same body's pixels about it and their spread: Salvi 2016), so that lamps may move and dim.
class CarriedLight {
 public:
  /// Of a film whose pixels have been looked at (`Tracer::look`), those that have to be traced: all but, by turns,
  /// every other one of what stands in the room and is known well from the frames before.
  [[nodiscard]] std::vector<char> to_trace(const Film& film, const StagedWorld& world) const;
  /// The frame's mixed picture with what is carried on into it. `film` holds what its pixels met; where `traced`
  /// says so pixels have no light of their own.
  [[nodiscard]] Picture with(const Picture& picture, const Film& film, const StagedWorld& world,
                             const std::vector<char>* traced = nullptr);
  /// The same frame once it is filtered: on outlines, of which a pass sees one side or the other, it goes on from
  /// the frame before, within what the pixels about say.
  [[nodiscard]] Picture outlined(const Picture& calm, const Film& film);
  /// By pixel of the last frame: what is left of the variance that a frame alone has.
  [[nodiscard]] const std::vector<float>& noise_left() const { return left_; }
  /// Passes that have gone into earlier frames: the next one's samples begin after them.
  [[nodiscard]] int passes() const { return passes_; }
  /// The next frame has none before it.
  void forget();

 private:
  struct Frame {
    int width = 0, height = 0;
    CameraPose pose;
    double sensor_width = 1, sensor_height = 1;
    std::vector<ExposedPoses> products;
    std::vector<int> body;     ///< by pixel, a number that a body keeps from frame to frame; -1: nothing
    std::vector<int> product;  ///< by pixel, of the shot's; -1: none
    std::vector<Vec3f> normal;
    std::vector<float> distance;
    std::vector<Vec3> place;  ///< in the world
    std::vector<Rgb> behind;
    std::vector<Rgb> light;  ///< what falls on it, the print divided out
    std::vector<float> passes;
  };
  struct Found {
    Rgb light{};
    float passes = 0.0f;
  };
  [[nodiscard]] static Frame looked_at(const Film& film, const StagedWorld& world);
  /// Where in the frame before, in pixels of it, what a pixel shows was, and where in the world.
  struct Was {
    double x, y;
    Vec3 place;
  };
  [[nodiscard]] std::optional<Was> was_at(const Frame& now, std::size_t pixel) const;
  [[nodiscard]] std::optional<Found> before(const Frame& now, std::size_t pixel) const;

  struct Outline {
    std::size_t pixel;
    double x, y;  ///< where it was
  };
  [[nodiscard]] std::vector<Outline> outlines(const Frame& now) const;

  Frame last_;
  std::vector<Outline> outlines_;
  Picture shown_;  ///< as the last frame came out
  std::vector<float> left_;
  int passes_ = 0, frames_ = 0;
};

}  // namespace cinnabar
