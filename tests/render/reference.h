// A second opinion for the tracer: analytic shapes in double precision, a plain random walk through coats, bodies
// and over facets, light found by chance alone (but for matte, where it is asked for). It reads the project's
// document by itself and shares no code with the tracer, only vectors.
#pragma once
#include <cstdint>
#include <vector>

#include "cinnabar/base/vec.h"
#include "cinnabar/project/document/document.h"

namespace cinnabar::reference {

/// A metal's refractive index n - ik, whatever the document says of its colour.
struct Index {
  double n, k;
};

/// Part of the frame, 0 to 1 from its left and its top.
struct Patch {
  double left, top, right, bottom;
};
struct Mean {
  double value;  ///< cd/m2
  double error;  ///< its standard error
};

/// Reflectance of a smooth metal face in air, unpolarised (Born & Wolf, *Principles of Optics*, 13.4, exact).
double metal_reflectance(const Index& index, double cosine);

class World {
 public:
  /// The first shot of a document of planes, cards, rectangles and bodies of revolution with level and upright
  /// sides. Colours are read in their first band.
  World(const Json& document, const Index& metal);
  Mean luminance(const Patch& patch, int paths, std::uint64_t seed) const;

 private:
  enum class What { matte, coated, mirror, metal, boundary, wax, light };
  enum class Form { rectangle, side, level };
  struct Face {
    Form form;
    Vec3 middle, u, v, normal;        ///< rectangles: half sides
    double radius, inner, low, high;  ///< sides and level rings about `middle`
    What what;
    double albedo, index, scatter, absorb, index_outside, absorb_outside, along, across, shines;
  };
  struct Meeting {
    const Face* face = nullptr;
    double distance = 1e30;
    Vec3 place, normal;  ///< outward
  };
  struct Walker;

  void body(const Json& part, const Vec3& foot);
  void vessel(const Json& glass, const Json& liquid, const Vec3& foot);
  static Face face_of(const Json& material);
  void side(Face face, const Vec3& foot, double radius, double low, double high);
  void level(Face face, const Vec3& foot, double inner, double outer, double height, double up);
  void rectangle(Face face, const Vec3& place, const Vec3& u, const Vec3& v);
  [[nodiscard]] Meeting meet(const Vec3& from, const Vec3& along, double least = 1e-9) const;
  [[nodiscard]] double follow(Vec3 from, Vec3 along, Walker& walker) const;
  [[nodiscard]] double asked(const Meeting& at, const Vec3& n, Walker& walker) const;
  [[nodiscard]] bool wander(Meeting at, Vec3& from, Vec3& along, double& carried, Walker& walker) const;
  [[nodiscard]] bool facets(const Meeting& at, const Vec3& n, Vec3& along, double& carried, Walker& walker) const;

  std::vector<Face> faces_;
  Index metal_;
  double around_ = 0.0;  ///< cd/m2 of the room
  Vec3 eye_, right_, up_, ahead_;
  double wide_ = 0.0, tall_ = 0.0;  ///< of the frame at one metre
};

}  // namespace cinnabar::reference
