// What the recipes of ready moves are made with: a shot being built on a product, a set-up and a kit.
#pragma once
#include <cmath>

#include "cinnabar/forecast/moves/ready_moves.h"
#include "cinnabar/project/making/new_shot.h"

namespace cinnabar {

class MoveBench {
 public:
  /// On the set-up of that id, or of the shot before where it is empty; that long on screen where it is given.
  MoveBench(const Document& document, std::size_t after, const ReadyMove& move, const std::string& setup = {},
            std::optional<double> seconds = {});

  /// How the product fills the frame, seen from where, for how long on screen, how many times slower.
  struct View {
    ShotSize size = ShotSize::close;
    double share = 0.62, seconds = 3.0, slow = 1.0;
    double bearing_deg = 0, elevation_deg = 6;
    double aim_height = 0.5;  ///< of the product's
    bool turns = false;       ///< the product turns, and the label with it
    double aside = 0;  ///< product's middle from the frame's, as a share of its width; positive to the right
  };
  /// Chooses mode, lens and place, shutter, aperture by the depth rule, and focus.
  void look(const View& view);

  // The product: metres, seconds.
  double low = 0, high = 0.1, radius = 0.035, mass = 0.3;
  std::optional<double> label_height;
  double label_bearing = 0;
  std::optional<double> label_stroke;
  std::string like_size;  ///< of the shot before
  [[nodiscard]] double height() const { return high - low; }
  // The shot being built.
  Json shot;
  Vec3 place, aim;         ///< of the camera
  double distance = 1;     ///< from camera to aim
  double set_seconds = 3;  ///< the shot's length on the floor
  double screen_seconds = 3;
  std::optional<double> asked_seconds;  ///< of its length on screen
  [[nodiscard]] const Project& project() const { return project_; }
  /// The house rule that holds for the shot: its own, its set-up's, the project's.
  template <class Rule>
  [[nodiscard]] Rule rule() const {
    return static_cast<Rule>(chosen(rule_of(Rule{})));
  }
  [[nodiscard]] Document& document() { return document_; }

  void track(const std::string& target, const std::string& profile,
             const std::vector<std::pair<double, double>>& keys);
  void track(Tracked what, const std::string& profile, const std::vector<std::pair<double, double>>& keys) {
    track(target_text(what), profile, keys);
  }
  void note(const std::string& text);
  void plates(const std::vector<std::string>& list) { shot["plates"] = list; }
  /// Puts the products on a turntable that carries them; the degrees it can turn in those set seconds by that
  /// profile.
  [[nodiscard]] double on_table(double degrees, double seconds, double peak_over_mean);
  [[nodiscard]] std::optional<double> table_rpm() const;  ///< the quickest of the one that carries most
  /// Slides the camera along an axis over the whole shot, at most `wanted` metres or what the kit's slider can do,
  /// the share `before` of it before its place; how far. Where the kit has no slider, or the house rule is locked
  /// off, the move is made in the crop instead, and the answer is 0.
  double slide(const Vec3& axis, double wanted, double before, const std::string& profile, double peak_over_mean,
               bool pans = false);
  /// Metres a second across the lens that still smear little enough to read, by the label's stroke or two pixels.
  [[nodiscard]] double still_speed() const;
  [[nodiscard]] double on_beat(double seconds) const;
  /// The set-up as one of the move's own, to be changed; its lights as JSON.
  Json& own_setup(const std::string& suffix, const std::string& name);
  [[nodiscard]] Json& lights();
  /// The light that gives most at the product; added from the kit where there is none. Only with a set-up of its
  /// own.
  [[nodiscard]] Json& key();
  /// A light of the kit, or a plain panel, added to the own set-up.
  Json& add_light(const std::string& id, const std::string& name, const Vec3& at, const Vec3& to, double width,
                  double height);
  /// Id of the strongest light of the set-up as it is; empty where there is none.
  [[nodiscard]] std::string strongest() const;
  /// Puts shot and set-up into the document; where the shot stands.
  [[nodiscard]] std::size_t finish();
  [[nodiscard]] std::string own_setup_id() const {
    return own_ ? own_->at("id").get<std::string>() : std::string();
  }

 private:
  [[nodiscard]] std::size_t chosen(HouseRule rule) const;
  Document document_;
  Project project_;
  std::size_t after_;
  double focus_ = 1, magnification_ = 0.05, shutter_ = 0.02, pitch_ = 5e-6, sensor_pitch_ = 5e-6;
  std::optional<Json> own_;
  const Setup* setup_ = nullptr;
};

using MoveRecipe = void (*)(MoveBench&);
struct MoveEntry {
  ReadyMove move;
  MoveRecipe make;
  const char* effect = "";  ///< kind of the effect that it is about; empty: none
};
[[nodiscard]] const std::vector<MoveEntry>& move_table();

}  // namespace cinnabar
