// Predicted pictures on worker threads: progressive for the lens, small and kept for the strip.
#pragma once
#include <QImage>
#include <QObject>
#include <memory>

#include "cinnabar/desktop/workers/newest.h"
#include "cinnabar/forecast/forecast.h"
#include "cinnabar/render/overlays.h"
#include "cinnabar/render/tracer.h"

namespace cinnabar {

/// A picture as the lens shows it, with what it was made from so that it can be mixed anew.
struct LensPicture {
  QImage image;
  int passes = 0;
  bool settled = false;
  Picture luminances;  ///< cd/m2, by pixel of the film
  std::shared_ptr<const StagedWorld> world;
  std::shared_ptr<const Film> film;  ///< of its own arrangement: what its first rays met belongs to the tracer
  std::shared_ptr<const Tracer> tracer;
  double set_time = 0;
  std::vector<StrayThing> strays;   ///< what has nothing to do in it
  QImage stray_marks;               ///< over their pixels: their edges and dots within; null where there are none
  std::vector<double> on_backdrop;  ///< each layer's share of the light on the backdrop
};

/// Traces the newest request. A first picture is small and filtered, then passes add up; what only changes lights
/// or exposure is mixed from the film that is there, without a ray.
class PictureMaker : public QObject {
  Q_OBJECT
 public:
  /// `passes` are added up, then the picture is settled.
  explicit PictureMaker(int passes = 64, QObject* parent = nullptr);

  /// Asks for a shot at a set time, `width` pixels wide. `solo` shows one light only.
  void ask(const Project& project, std::size_t shot, double setTime, int width, const std::string& solo);
  void stop() { worker_.stop(); }
  [[nodiscard]] int allPasses() const { return allPasses_; }

 signals:
  void picture(std::shared_ptr<const LensPicture> picture);

 private:
  struct Kept {
    std::uint64_t key = 0;
    std::shared_ptr<const Tracer> tracer;
    Film small, film;
  };
  void make(const Project& project, const Shot& shot, double setTime, int width, const std::string& solo,
            const std::atomic<bool>& cancelled);
  void deliver(const Film& film, const std::shared_ptr<const StagedWorld>& world, const Setup* setup,
               const std::string& solo, int passes, double setTime);

  const int allPasses_;
  Kept kept_;      // on the worker only
  Newest worker_;  // last: it uses the others
};

/// Luminances as the camera records them.
[[nodiscard]] QImage developedImage(const Picture& luminances, const StagedCamera& camera);

struct ThumbnailOptions {
  int passes = 8;
  double middle = 1.0;  ///< share of the width, about the middle, that is traced; the rest stays black
};

/// A small settled picture of a shot for the strip and other lists.
[[nodiscard]] QImage thumbnail(const Project& project, const Shot& shot, int width,
                               const std::atomic<bool>& cancelled, const ThumbnailOptions& options = {});

}  // namespace cinnabar
Q_DECLARE_METATYPE(std::shared_ptr<const cinnabar::LensPicture>)
