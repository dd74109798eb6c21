// What things are made of and covered with. Colours are linear BT.709, lengths in metres.
#pragma once
#include <memory>
#include <optional>
#include <string>

#include "cinnabar/base/vec.h"
#include "cinnabar/color/picture.h"
#include "cinnabar/project/document/json_ptr.h"

namespace cinnabar {

enum class MaterialKind { matte, satin, gloss, metal, mirror, glass, frosted, liquid, paper, translucent, cloth };

/// Small things that lie on a surface.
enum class CoverKind { droplets, dust, fingerprints };
struct Cover {
  CoverKind kind = CoverKind::droplets;
  double share = 0.3;   ///< of the surface, 0 to 0.8
  double size = 0.002;  ///< across the largest
};
/// Pits of a skin or a cast, all over.
struct Relief {
  double size = 0.002;    ///< across the largest
  double depth = 0.0001;  ///< of the largest
};

/// A pattern that a flat thing repeats: one of the program's own (in the order of `Pattern`), or a picture.
enum class TextureKind { wood, marble, stone, weave, picture };
struct Texture {
  TextureKind kind = TextureKind::wood;
  double size = 0.4;                       ///< of one tile, metres wide; it is as high as its picture is
  double turn_deg = 0.0;                   ///< of the pattern in the thing's plane
  Vec3 colour{};                           ///< of its grain, veins, specks or other thread
  std::string picture{};                   ///< blob
  Vec3 ground{};                           ///< the material's own colour, under the pattern
  std::shared_ptr<const Picture> image{};  ///< of a picture; nothing where it cannot be read

  /// What repeats, against the material's colour, which is its mean; nothing where there is nothing to be shown.
  /// Drawn when it is first asked for: not for the interface's thread.
  [[nodiscard]] std::shared_ptr<const Picture> tile() const;
};

struct Material {
  MaterialKind kind = MaterialKind::matte;
  Vec3 colour{0.5, 0.5, 0.5};  ///< reflectance; of clear kinds the tint of one passage
  double roughness = 0.0;      ///< squared, the microfacet alpha
  double ior = 1.5;
  Vec3 absorption{};           ///< per metre
  double transmittance = 0.5;  ///< of a translucent sheet
  double forward = 0.0;        ///< share of what that lets through that goes nearly straight on
  double lobe_deg = 20.0;      ///< from the ray to where that share gives half
  Vec3 scattering{};           ///< per metre, inside a translucent body; 0: a thin sheet
  double brushing = 0.0;       ///< -1 to 1, of satin and metal: above 0 lines round a body or across, below along
  double sheen = 0.0;          ///< of matte, paper and cloth: share of a nap of upright fibres
  double screen = 0.0;         ///< cd/m2 that white shows by light of its own
  std::optional<Relief> relief;
  std::optional<Cover> cover;
  bool textured = false;           ///< its movement across the frame can be seen
  std::optional<Texture> texture;  ///< of surfaces, backdrops, cards and bodies; `colour` is the mean with it

  /// Neither coat nor metal nor clear: paint, paper and cloth.
  [[nodiscard]] bool is_matte() const {
    return kind == MaterialKind::matte || kind == MaterialKind::paper || kind == MaterialKind::cloth;
  }
  /// Light goes through it.
  [[nodiscard]] bool is_clear() const {
    return kind == MaterialKind::glass || kind == MaterialKind::frosted || kind == MaterialKind::liquid;
  }
  /// Light goes in and scatters inside.
  [[nodiscard]] bool scatters() const { return kind == MaterialKind::translucent && largest(scattering) > 0.0; }
};

/// As a document has it, what is as it would be left out among it; read again it is the same.
[[nodiscard]] Json material_json(const Material& material);

}  // namespace cinnabar
