// Product meshes from other programs: Wavefront OBJ, glTF 2.0 (.gltf, .glb) and STL, read by assimp. Nothing in
// such a file says for certain how large it is or which way is up, so both are asked for and checked.
#pragma once
#include <filesystem>
#include <optional>
#include <string>
#include <vector>

#include "cinnabar/base/result.h"
#include "cinnabar/base/text.h"
#include "cinnabar/project/document/document.h"
#include "cinnabar/project/model/part_mesh.h"

namespace cinnabar {

/// The triangles of one material, or of one thing where there is one material only. In the file's own units.
struct MeshGroup {
  std::string name;
  Json material;  ///< as near as the file says
  std::vector<Vec3f> corners;
};
struct MeshFile {
  std::string name;  ///< of the file, without its ending
  std::vector<MeshGroup> groups;
  bool in_metres = false;  ///< the format says so (glTF)
  bool z_up = false;       ///< the custom of the format (STL)
  std::size_t triangles = 0;
};

/// Reads a mesh with what it names in its own folder (materials, buffers). Fails, saying what to do, where the
/// file cannot be read, is over 64 MB or `most_triangles`, is nested to do harm, or has no triangle.
[[nodiscard]] Expected<MeshFile> read_mesh_file(const std::filesystem::path& file);

struct LengthUnit {
  std::string id, name;
  double metres;
};
/// mm, cm, m, in, ft.
[[nodiscard]] const std::vector<LengthUnit>& mesh_units();

/// How a mesh is to be taken.
struct MeshChoice {
  double metres_per_unit = 0.001;
  bool z_up = false;
  std::optional<double> height;   ///< of the product, measured by hand; metres
  bool scaled_to_height = false;  ///< whatever its unit, made that high
};
/// What comes of it.
struct MeshReport {
  double width = 0, height = 0, depth = 0;  ///< metres
  bool agrees = true;                       ///< with the height typed, within 2 %; or scaled to it
  std::vector<std::string> remarks;         ///< holes, faces turned inward, a unit that would fit
};
[[nodiscard]] MeshReport inspected(const MeshFile& mesh, const MeshChoice& choice, Units units = Units::metric);

/// The document with the mesh as a new product at the end, standing on the surface, its middle on the axis. Fails
/// where the height typed does not agree.
[[nodiscard]] Expected<Document> with_mesh_product(const Document& document, const MeshFile& mesh,
                                                   const MeshChoice& choice, const std::string& name);

}  // namespace cinnabar
