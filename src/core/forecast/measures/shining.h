// What of a light shines on a place: its face, or the sheet of diffusion that stands in its way.
#pragma once
#include <optional>
#include <string>

#include "cinnabar/project/model/entities.h"

namespace cinnabar {

struct Shining {
  Vec3 place;           ///< its middle
  double side;          ///< its diameter or smaller side, metres, of an even face of the same spread
  std::string through;  ///< name of the sheet; empty: the light's own face
};
/// Of a light as it is at that moment. A sheet is a card of a thin translucent material that the straight way from
/// `at` to the light's middle goes through, of several the one nearest to `at`; what of it shines follows from the
/// lamp as a point (Lambert's about its aim, a ball's all round), the sheet's lobe (Lafortune & Willems 1994) and
/// how it is seen from there; the lamp's own size is added as seen on the sheet (common practice, no source).
[[nodiscard]] Shining shining_on(const Vec3& at, const Light& light, const Setup& setup, const Shot& shot,
                                 double set_time);

/// The edge of a fingertip's shadow at the foot of the shot's first product (the origin where it has none): of
/// what is 20 mm over a level surface.
struct SoftEdge {
  Shining shining;
  double distance, elevation_deg;
  double across;  ///< metres, of an edge that lies along the light's run
};
inline constexpr double fingertip = 0.02;  ///< metres
/// Nothing where the light stands no higher than the fingertip.
[[nodiscard]] std::optional<SoftEdge> soft_edge(const Project& project, const Shot& shot, const Setup& setup,
                                                const Light& light, double set_time);

}  // namespace cinnabar
