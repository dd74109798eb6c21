// What makes a picture of few passes calm: an edge-aware filter that knows bodies, normals, prints and what stands
// behind glass.
#pragma once
#include <vector>

#include "cinnabar/render/film.h"

namespace cinnabar {

/// Evens out the noise of a picture of few passes along its edges: a-trous wavelets (Dammertz et al. 2010), guided
/// by body, normal, what stands behind glass and the noise that the guide's squares tell (as Schied et al. 2017).
/// Where print or foil differs, a pixel's own of either is put in by how light goes along both about it. Single
/// bright dots are held to their neighbours first; pixels that several bodies share (`Film::mixtures`) are put
/// together from what lies about them, the more the fewer passes there are. `noise_left`, by pixel, is the share
/// of that noise that is left where more than the guide's passes are in it.
[[nodiscard]] Picture filtered(const Picture& picture, const Film& guide, int rounds,
                               const std::vector<float>* noise_left = nullptr);
/// What a pixel's light is divided by so that print and texture stay out of it: what it reflects; 1 of clear
/// things and of lights.
[[nodiscard]] Rgb tint_of(const FirstHit& first);
/// What stands behind clear things, by pixel: of few passes in the mean of the pixels about that show the same
/// body, since one look through several boundaries goes now this way, now that.
[[nodiscard]] std::vector<Rgb> stands_behind(const Film& film);
/// Holds each pixel to at most eight times the third brightest of its neighbours.
void hold_dots(Picture& picture);

}  // namespace cinnabar
