// A method's lights and cards about a product: built to its size from the lamps that are free.
#pragma once
#include "cinnabar/forecast/levers/bench.h"
#include "cinnabar/forecast/methods/methods.h"

namespace cinnabar {

/// How an arrangement departs from the one that its method is begun with.
struct Lay {
  double toward = 0;    ///< degrees by which its lights come round to the camera's side
  double higher = 0;    ///< degrees
  double distance = 1;  ///< of its lights, times
  double size = 1;      ///< of their faces, times
  double cards = 1;     ///< distance of its cards, times
  double ground = 1;    ///< distance of lamps for the backdrop from it, times
  bool label = false;   ///< one lamp more, high in front, for what is to be read

  bool operator==(const Lay&) const = default;
};

/// Whether any part of a face lies in the frame at some moment of the shot.
[[nodiscard]] bool in_frame(const Bench& b, const Vec3& place, const Vec3& aim, double width, double height);

/// What a method is built with: the shot, its measures, and lamps that are still free.
class Arrangement {
 public:
  explicit Arrangement(const Bench& bench, const Lay& lay = {});
  [[nodiscard]] int lamps() const { return static_cast<int>(free_.size()); }
  void build(const Method& method);
  /// False where there is none left to go without.
  bool without_last_card();
  /// The document with what was built in the set-up's place; the backdrop black or white where the rule asks for
  /// it. Lights that tracks and needs of the set-up's shots name hand their names on, so that what moves goes on
  /// moving: nothing where there are more of them than the method has lights.
  [[nodiscard]] Maybe set_up(const Method& method) const;
  /// Ids of lights that shots of this set-up ask for by name.
  [[nodiscard]] std::vector<std::string> lights_named() const;

 private:
  static double tidy(double x) { return std::round(x * 1e3) / 1e3; }
  [[nodiscard]] Vec3 around(double bearing, double elevation, double distance) const;
  [[nodiscard]] Vec3 lit_from(double bearing, double elevation, double distance) const;
  [[nodiscard]] Vec3 clear_of_frame(const Vec3& place, const Vec3& aim, double width, double height) const;
  [[nodiscard]] double outside_frame() const;
  void light(const std::string& id, const std::string& name, const Vec3& at, const Vec3& aim, double width,
             double height, double dimmer, const std::string& meant_for, double grid = 0.0);
  double window(double bearing, double elevation, double distance);
  void card(const std::string& id, bool white, const Vec3& at, double width, double height);
  void fill(double bearing, double elevation, double distance, double width, double height,
            const char* id = "fill");
  void strip(const std::string& id, const std::string& name, double bearing, double distance, double grid = 0.0);
  void backdrop_lamps(int most, double dimmer);
  void label_lamp(double near, double soft);
  void by_strips(const std::string& id);
  void by_faces(const std::string& id);
  void by_window(const std::string& id);

  const Bench& b_;
  const Lay lay_;
  double reach_ = 0, tall_ = 0, size_ = 0, camera_ = 0;
  double steepest_ = 85;                                        ///< degrees that a light may stand up
  double near_ = 0, soft_ = 0, card_wide_ = 0, card_tall_ = 0;  ///< m, by the product's size
  Vec3 middle_;
  std::vector<const LightKit*> free_;
  Json lights_ = Json::array(), cards_ = Json::array();
};

/// The first of the set-up's lights, a strip, carried to where its image lies beside the label and is as wide as
/// it should be, others of the first `strips` to the same place across the camera's axis. As it was where no place
/// does.
[[nodiscard]] Document with_stripes(const Forecaster& forecaster, const Document& document, std::size_t shot,
                                    std::size_t strips, const std::atomic<bool>* cancel);

}  // namespace cinnabar
