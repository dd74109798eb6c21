#include "cinnabar/scene/mesh_file.h"

#include <assimp/config.h>
#include <assimp/material.h>
#include <assimp/postprocess.h>
#include <assimp/scene.h>
#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <assimp/IOSystem.hpp>
#include <assimp/Importer.hpp>
#include <cmath>
#include <cstring>
#include <fstream>
#include <map>
#include <set>
#include <unordered_map>

#include "cinnabar/base/encoding.h"
#include "cinnabar/base/words.h"
#include "cinnabar/color/white.h"
#include "cinnabar/project/document/json_text.h"
#include "cinnabar/project/making/new_shot.h"
// Needs IOStream's definition before it.
#include <assimp/MemoryIOWrapper.h>

namespace cinnabar {
namespace {

namespace fs = std::filesystem;

constexpr std::uintmax_t most_bytes = 64u << 20;
constexpr double most_values = 64e6;  // numbers that a glTF file may promise
constexpr std::size_t most_groups = 12;
constexpr int most_nested = 200;

tl::unexpected<Error> bad(const fs::path& file, const std::string& what, const std::string& mend) {
  return fail(file.filename().string(), what, mend, Fault::input);
}

std::optional<std::vector<char>> bytes_of(const fs::path& file) {
  std::error_code error;
  const auto size = fs::file_size(file, error);
  if (error || size > most_bytes || !fs::is_regular_file(file, error)) return std::nullopt;
  std::ifstream in(file, std::ios::binary);
  std::vector<char> bytes(size);
  if (!in.read(bytes.data(), static_cast<std::streamsize>(size))) return std::nullopt;
  return bytes;
}

/// Opens files of the mesh's own folder and no others.
class OwnFolder : public Assimp::IOSystem {
 public:
  explicit OwnFolder(fs::path folder) : folder_(std::move(folder)) {}
  bool Exists(const char* name) const override {
    std::error_code error;
    return fs::is_regular_file(here(name), error);
  }
  char getOsSeparator() const override { return '/'; }
  Assimp::IOStream* Open(const char* name, const char* mode) override {
    if (mode && mode[0] != 'r') return nullptr;
    const auto bytes = bytes_of(here(name));
    if (!bytes) return nullptr;
    auto* copy = new std::uint8_t[bytes->size() + 1];
    std::copy(bytes->begin(), bytes->end(), copy);
    copy[bytes->size()] = 0;
    return new Assimp::MemoryIOStream(copy, bytes->size(), true);
  }
  void Close(Assimp::IOStream* stream) override { delete stream; }

 private:
  [[nodiscard]] fs::path here(const char* name) const { return folder_ / fs::path(name).filename(); }
  fs::path folder_;
};

/// How many numbers the lists of a glTF file say they hold, whatever bytes stand behind them (glTF 2.0, 3.6.2: an
/// accessor without a buffer view is all zeros). Sizes that are none count as endless.
double promised_values(const Json& json) {
  double sum = 0;
  const auto count = [&](const char* list, const char* key, double each) {
    const auto found = json.find(list);
    if (found == json.end()) return;
    if (!found->is_array()) return void(sum = 1e300);
    for (const Json& item : *found) {
      const Json value = item.is_object() ? item.value(key, Json(0)) : Json(1e300);
      sum += (value.is_number() ? std::abs(value.get<double>()) : 1e300) * each;
    }
  };
  count("accessors", "count", 4);
  count("buffers", "byteLength", 0.25);
  return sum;
}

/// The tree of a glTF file is looked at before it is followed: no circles, no depth without end, no files that lie
/// elsewhere.
Expected<void> check_gltf(const fs::path& file, const std::vector<char>& bytes) {
  std::string_view text(bytes.data(), bytes.size());
  if (text.size() >= 20 && text.substr(0, 4) == "glTF") {
    std::uint32_t length = 0;
    std::memcpy(&length, &bytes[12], 4);
    if (length > bytes.size() - 20)
      return bad(file, "is cut short", "save it again from the program it came from");
    text = text.substr(20, length);
  }
  if (depth_of(text) > deepest_json) return bad(file, "is nested too deeply", "save it again as a plain mesh");
  const Json json = parsed_json(text).value_or(Json());
  if (!json.is_object()) return bad(file, "is no glTF file", "save it again as glTF 2.0, OBJ or STL");
  if (const auto promised = promised_values(json); promised > most_values)
    return bad(file, "promises more than memory holds", "make the mesh coarser, or save it as OBJ or STL");
  const Json nodes = json.value("nodes", Json::array());
  std::vector<int> levels(nodes.size(), 0);  // the longest way down to each
  const auto children = [&](std::size_t n) {
    std::vector<std::size_t> list;
    if (nodes[n].is_object() && nodes[n].contains("children") && nodes[n]["children"].is_array())
      for (const Json& c : nodes[n]["children"])
        if (c.is_number_unsigned() && c.get<std::size_t>() < nodes.size()) list.push_back(c.get<std::size_t>());
    return list;
  };
  if (!nodes.is_array() || nodes.size() > 20000) return bad(file, "has too many nodes", "save it as a plain mesh");
  std::vector<std::size_t> open;
  for (std::size_t n = 0; n < nodes.size(); ++n) open.push_back(n);
  for (std::size_t steps = 0; !open.empty(); ++steps) {
    const std::size_t n = open.back();
    open.pop_back();
    for (const std::size_t c : children(n))
      if (levels[c] < levels[n] + 1) levels[c] = levels[n] + 1, open.push_back(c);
    if (levels[n] > most_nested || steps > 2000000)
      return bad(file, "has things that hold one another without end", "save it as a plain mesh");
  }
  return {};
}

std::string plain_name(const aiString& name) {
  std::string text(name.C_Str());
  text.erase(std::remove_if(text.begin(), text.end(), [](unsigned char c) { return c < 32; }), text.end());
  return made_utf8(clipped(text, 60));
}

double tidy_share(double v) { return std::isfinite(v) ? std::round(std::clamp(v, 0.0, 1.0) * 1e4) / 1e4 : 0.5; }

Json material_of(const aiMaterial& m, bool linear) {
  aiColor4D colour(0.6f, 0.6f, 0.6f, 1.0f);
  if (m.Get(AI_MATKEY_BASE_COLOR, colour) != AI_SUCCESS) m.Get(AI_MATKEY_COLOR_DIFFUSE, colour);
  const auto light = [linear](float v) {  // OBJ's colours are meant for the eye (IEC 61966-2-1)
    const double c = std::clamp(static_cast<double>(v), 0.0, 1.0);
    return tidy_share(linear ? c : srgb_decode(c));
  };
  float metallic = 0, rough = 0.5f, opacity = 1;
  m.Get(AI_MATKEY_METALLIC_FACTOR, metallic);
  m.Get(AI_MATKEY_ROUGHNESS_FACTOR, rough);
  m.Get(AI_MATKEY_OPACITY, opacity);
  const Json rgb{light(colour.r), light(colour.g), light(colour.b)};
  if (opacity < 0.6f) return {{"kind", "glass"}, {"ior", 1.5}};
  if (metallic > 0.5f)
    return {{"kind", "metal"}, {"colour", rgb}, {"roughness", tidy_share(static_cast<double>(rough))}};
  return {{"kind", "satin"}, {"colour", rgb}, {"roughness", tidy_share(static_cast<double>(rough))}};
}

/// Walks the tree and gathers what each material covers.
class Gathering {
 public:
  Gathering(const aiScene& scene, bool linear) : scene_(scene), linear_(linear) {
    std::set<unsigned> used;
    for (unsigned k = 0; k < scene.mNumMeshes; ++k) used.insert(scene.mMeshes[k]->mMaterialIndex);
    by_material_ = used.size() > 1;
  }

  /// False where there are too many triangles or a number is no number.
  bool take(const aiNode& root) {
    struct Step {
      const aiNode* node;
      aiMatrix4x4 place;
      int depth;
    };
    std::vector<Step> open{{&root, root.mTransformation, 0}};
    while (!open.empty()) {
      const Step step = open.back();
      open.pop_back();
      for (unsigned k = 0; k < step.node->mNumMeshes; ++k)
        if (!add(*scene_.mMeshes[step.node->mMeshes[k]], *step.node, step.place)) return false;
      for (unsigned k = 0; step.depth < 2 * most_nested && k < step.node->mNumChildren; ++k) {
        const aiNode* child = step.node->mChildren[k];
        open.push_back({child, step.place * child->mTransformation, step.depth + 1});
      }
    }
    return true;
  }
  std::vector<MeshGroup> groups;
  std::size_t triangles = 0;
  bool numbers_bad = false;

 private:
  bool add(const aiMesh& mesh, const aiNode& node, const aiMatrix4x4& place) {
    const aiMaterial& material = *scene_.mMaterials[mesh.mMaterialIndex];
    aiString named;
    material.Get(AI_MATKEY_NAME, named);
    std::string name = plain_name(by_material_ ? named : node.mName.length ? node.mName : mesh.mName);
    if (name.empty()) name = "part";
    const auto [known, fresh] = places_.try_emplace(name, groups.size());
    if (fresh) groups.push_back({name, material_of(material, linear_), {}});
    MeshGroup* group = &groups[known->second];
    const bool mirrored = place.Determinant() < 0;
    for (unsigned f = 0; f < mesh.mNumFaces; ++f) {
      const aiFace& face = mesh.mFaces[f];
      if (face.mNumIndices != 3) continue;
      if (++triangles > most_triangles) return false;
      for (const unsigned k : mirrored ? std::array{0u, 2u, 1u} : std::array{0u, 1u, 2u}) {
        if (face.mIndices[k] >= mesh.mNumVertices) return !(numbers_bad = true);
        const aiVector3D v = place * mesh.mVertices[face.mIndices[k]];
        if (!std::isfinite(v.x) || !std::isfinite(v.y) || !std::isfinite(v.z)) return !(numbers_bad = true);
        group->corners.push_back({v.x, v.y, v.z});
      }
    }
    return true;
  }
  const aiScene& scene_;
  bool linear_, by_material_ = false;
  std::unordered_map<std::string, std::size_t> places_;  // of the groups, by name
};

/// The most of them keep their names; the smallest are joined.
void joined_down(std::vector<MeshGroup>& groups) {
  std::erase_if(groups, [](const MeshGroup& g) { return g.corners.empty(); });
  std::stable_sort(groups.begin(), groups.end(),
                   [](const MeshGroup& a, const MeshGroup& b) { return a.corners.size() > b.corners.size(); });
  while (groups.size() > most_groups) {
    auto& rest = groups[most_groups - 1];
    rest.name = "rest";
    rest.corners.insert(rest.corners.end(), groups.back().corners.begin(), groups.back().corners.end());
    groups.pop_back();
  }
}

Vec3f upright(const Vec3f& v, bool z_up) { return z_up ? Vec3f{v.x, v.z, -v.y} : v; }

struct Box {
  Vec3 low{1e30, 1e30, 1e30}, high{-1e30, -1e30, -1e30};
};
Box box_of(const MeshFile& mesh, bool z_up) {
  Box box;
  for (const MeshGroup& g : mesh.groups)
    for (const Vec3f& corner : g.corners) {
      const Vec3 v = upright(corner, z_up).as<double>();
      box.low = {std::min(box.low.x, v.x), std::min(box.low.y, v.y), std::min(box.low.z, v.z)};
      box.high = {std::max(box.high.x, v.x), std::max(box.high.y, v.y), std::max(box.high.z, v.z)};
    }
  return box;
}

/// Metres to one of the file's units.
double scale_of(const MeshChoice& choice, double tall) {
  return choice.scaled_to_height && choice.height && tall > 0 ? *choice.height / tall : choice.metres_per_unit;
}

/// A group as it stands in the product: metres, upright, on the axis.
std::vector<Vec3f> placed(const MeshGroup& group, const MeshChoice& choice, const Box& box) {
  const double scale = scale_of(choice, box.high.y - box.low.y);
  const Vec3 foot{(box.low.x + box.high.x) / 2, box.low.y, (box.low.z + box.high.z) / 2};
  std::vector<Vec3f> out;
  out.reserve(group.corners.size());
  for (const Vec3f& v : group.corners)
    out.push_back(((upright(v, choice.z_up).as<double>() - foot) * scale).as<float>());
  // What has no area has no side; it would be counted as crowding its edges.
  std::vector<Vec3f> kept;
  kept.reserve(out.size());
  for (std::size_t k = 0; k + 2 < out.size(); k += 3)
    if (has_area(out[k], out[k + 1], out[k + 2])) kept.insert(kept.end(), &out[k], &out[k] + 3);
  out = std::move(kept);
  // A closed body whose faces all look inward is turned outside out.
  if (count_edges(out).closed() && enclosed_volume(out) < 0)
    for (std::size_t k = 0; k + 2 < out.size(); k += 3) std::swap(out[k + 1], out[k + 2]);
  return out;
}

std::string slug(const std::string& name) {
  std::string out;
  for (const char c : name) {
    const bool plain = (c >= 'a' && c <= 'z') || (c >= '0' && c <= '9');
    const bool capital = c >= 'A' && c <= 'Z';
    if (plain || capital)
      out += capital ? static_cast<char>(c - 'A' + 'a') : c;
    else if (!out.empty() && out.back() != '-')
      out += '-';
  }
  while (!out.empty() && out.back() == '-') out.pop_back();
  return out.empty() ? "part" : out;
}

}  // namespace

Expected<MeshFile> read_mesh_file(const fs::path& file) {
  std::string ending = file.extension().string();
  std::transform(ending.begin(), ending.end(), ending.begin(),
                 [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
  const bool gltf = ending == ".gltf" || ending == ".glb";
  if (!gltf && ending != ".obj" && ending != ".stl")
    return bad(file, "is no mesh that can be read", "give an OBJ, glTF (.gltf, .glb) or STL file");
  std::error_code error;
  if (fs::file_size(file, error) > most_bytes && !error)
    return bad(file, "is over 64 MB", "make the mesh coarser in the program it came from");
  const auto bytes = bytes_of(file);
  if (!bytes) return bad(file, "cannot be read", "check that it is there and may be opened");
  if (gltf)
    if (const auto good = check_gltf(file, *bytes); !good) return tl::unexpected(good.error());

  Assimp::Importer importer;
  importer.SetIOHandler(new OwnFolder(file.parent_path()));
  importer.SetPropertyInteger(AI_CONFIG_PP_SBP_REMOVE, aiPrimitiveType_POINT | aiPrimitiveType_LINE);
  const aiScene* scene = nullptr;
  try {
    scene = importer.ReadFile(file.filename().string(),
                              aiProcess_ValidateDataStructure | aiProcess_Triangulate | aiProcess_SortByPType);
  } catch (const std::exception&) {  // said below: the reader gave nothing
  }
  if (!scene || !scene->mRootNode)
    return bad(file, "is damaged or holds no mesh", "save it again from the program it came from");
  Gathering gathering(*scene, gltf);
  if (!gathering.take(*scene->mRootNode))
    return gathering.numbers_bad
               ? bad(file, "has corners at no place", "save it again from the program it came from")
               : bad(file, fmt::format("has over {} triangles", most_triangles), "make the mesh coarser");
  MeshFile mesh{file.stem().string(), std::move(gathering.groups), gltf, ending == ".stl", gathering.triangles};
  joined_down(mesh.groups);
  const Box box = box_of(mesh, false);
  if (mesh.groups.empty() || !(length(box.high - box.low) > 0) || length(box.high - box.low) > 1e12)
    return bad(file, "has no triangle with an extent", "save it again with its faces");
  return mesh;
}

const std::vector<LengthUnit>& mesh_units() {
  static const std::vector<LengthUnit> units{{"mm", "millimetres", 0.001},
                                             {"cm", "centimetres", 0.01},
                                             {"m", "metres", 1.0},
                                             {"in", "inches", 0.0254},
                                             {"ft", "feet", 0.3048}};
  return units;
}

MeshReport inspected(const MeshFile& mesh, const MeshChoice& choice, Units units) {
  const Box box = box_of(mesh, choice.z_up);
  const double scale = scale_of(choice, box.high.y - box.low.y);
  MeshReport report{(box.high.x - box.low.x) * scale,
                    (box.high.y - box.low.y) * scale,
                    (box.high.z - box.low.z) * scale,
                    true,
                    {}};
  const auto near = [](double a, double b) { return std::abs(a - b) <= 0.02 * b; };
  if (choice.height && !near(report.height, *choice.height)) {
    report.agrees = false;
    std::string fits;
    for (const LengthUnit& unit : mesh_units())
      if (near((box.high.y - box.low.y) * unit.metres, *choice.height)) fits = unit.name;
    report.remarks.push_back(said("By that unit it is {} high, and {} is typed.",
                                  length_text(report.height, units), length_text(*choice.height, units)) +
                             (fits.empty() ? "" : " " + said("In {} it would agree.", in_words(fits.c_str()))));
  }
  if (report.height > 5 || report.width > 5 || report.depth > 5 || report.height < 1e-3)
    report.remarks.push_back(said("That is no product for a table: {} by {} by {}.",
                                  length_text(report.width, units), length_text(report.height, units),
                                  length_text(report.depth, units)));
  for (const MeshGroup& group : mesh.groups) {
    const auto corners = placed(group, choice, box);
    const EdgeCount edges = count_edges(corners);
    if (edges.open > 0)
      report.remarks.push_back(
          said("{}: {} open edges, a shell or a body with holes. Glass and liquid need it closed.", group.name,
               edges.open));
    if (edges.turned > 0)
      report.remarks.push_back(
          said("{}: at {} edges one face looks inward, the next outward.", group.name, edges.turned));
    if (edges.crowded > 0)
      report.remarks.push_back(said("{}: {} edges are shared by more than two faces.", group.name, edges.crowded));
    if (edges.closed() && std::abs(enclosed_volume(corners)) < 1e-12)
      report.remarks.push_back(said("{} encloses nothing: it is flat.", group.name));
  }
  return report;
}

Expected<Document> with_mesh_product(const Document& document, const MeshFile& mesh, const MeshChoice& choice,
                                     const std::string& name) {
  const MeshReport report = inspected(mesh, choice);
  if (!report.agrees)
    return fail("height", report.remarks.front(), "choose another unit, or scale it to the height");
  if (std::max({report.width, report.height, report.depth}) > 100)
    return fail("unit", "makes it over 100 m large", "choose a smaller unit");
  const Box box = box_of(mesh, choice.z_up);
  Document next = document;
  Json product{{"id", fresh_id(document, "products", slug(name.empty() ? mesh.name : name))},
               {"name", name.empty() ? mesh.name : name},
               {"mass", 0.3},
               {"parts", Json::array()}};
  std::set<std::string> ids;
  for (const MeshGroup& group : mesh.groups) {
    PartMesh part = part_mesh(placed(group, choice, box));
    if (part.sections.empty()) continue;
    std::string id = slug(group.name);
    for (int k = 2; ids.contains(id); ++k) id = slug(group.name) + "-" + std::to_string(k);
    ids.insert(id);
    std::string blob = "mesh-" + product["id"].get<std::string>() + "-" + id;
    for (int k = 2; next.blobs.contains(blob); ++k)
      blob = "mesh-" + product["id"].get<std::string>() + "-" + id + "-" + std::to_string(k);
    next.blobs[blob] = std::make_shared<const Blob>(Blob{Json{{"type", "model/stl"}}, stl_of(part.corners)});
    auto known = std::make_shared<const PartMesh>(std::move(part));  // so that nobody has to read it again
    (void)next.blobs[blob]->memo.get<PartMesh>([&] { return known; });
    product["parts"].push_back({{"id", id}, {"mesh", blob}, {"material", group.material}});
  }
  if (product["parts"].empty()) return fail("mesh", "has nothing that stands up", "check which way is up");
  next.lists["products"].push_back(std::make_shared<const Json>(std::move(product)));
  return next;
}

}  // namespace cinnabar
