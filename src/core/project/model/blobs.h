// What the pictures, meshes and measured lights of a project hold, read once for all who share them. Any thread
// may ask.
#pragma once
#include "cinnabar/color/picture.h"
#include "cinnabar/photometry/distribution.h"
#include "cinnabar/project/document/document.h"
#include "cinnabar/project/model/part_mesh.h"

namespace cinnabar {

enum class BlobUse { picture, mesh, measured_light };

/// Nothing where the bytes cannot be read; `blob_fault` says why.
[[nodiscard]] std::shared_ptr<const Picture> picture_of(const Blob& blob);
[[nodiscard]] std::shared_ptr<const PartMesh> mesh_of(const Blob& blob);
[[nodiscard]] std::shared_ptr<const LightDistribution> measured_light_of(const Blob& blob);

/// Why a blob cannot be used as that; nothing where it can.
[[nodiscard]] std::optional<Error> blob_fault(const Blob& blob, BlobUse use);

}  // namespace cinnabar
