// Meshes of other programs: OBJ (Wavefront, Appendix B1), STL (3D Systems, 1989), glTF 2.0 (Khronos).
#include "cinnabar/scene/mesh_file.h"

#include <cmath>
#include <cstring>
#include <fstream>
#include <random>

#include "cinnabar/scene/form.h"
#include "cinnabar/scene/staged.h"
#include "worlds.h"

namespace cinnabar {
namespace {

namespace fs = std::filesystem;

class HostileMesh : public testing::Test {
 protected:
  void SetUp() override {
    std::string name = (fs::temp_directory_path() / "cinnabar-mesh-XXXXXX").string();
    folder_ = ::mkdtemp(name.data());
  }
  void TearDown() override { fs::remove_all(folder_); }
  fs::path write(const std::string& name, const std::string& bytes) {
    std::ofstream(folder_ / name, std::ios::binary) << bytes;
    return folder_ / name;
  }
  fs::path folder_;
};
using MeshFiles = HostileMesh;

const std::string obj_box = R"(# a box 80 x 160 x 60 with a lid of another material
mtllib box.mtl
v -40 0 -30
v 40 0 -30
v 40 0 30
v -40 0 30
v -40 160 -30
v 40 160 -30
v 40 160 30
v -40 160 30
usemtl card
f 1 2 3 4
f 4 3 7 8
f 2 1 5 6
f 3 2 6 7
f 1 4 8 5
usemtl shiny
f 8 7 6 5
)";
const std::string mtl_box = "newmtl card\nKd 0.5 0.25 0.1\nnewmtl shiny\nKd 1 1 1\nd 0.3\n";

std::string ascii_stl() {
  return R"(solid tetra
facet normal 0 0 -1
 outer loop
  vertex 0 0 0
  vertex 0 2 0
  vertex 2 0 0
 endloop
endfacet
facet normal 0 -1 0
 outer loop
  vertex 0 0 0
  vertex 2 0 0
  vertex 0 0 3
 endloop
endfacet
facet normal -1 0 0
 outer loop
  vertex 0 0 0
  vertex 0 0 3
  vertex 0 2 0
 endloop
endfacet
facet normal 1 1 1
 outer loop
  vertex 2 0 0
  vertex 0 2 0
  vertex 0 0 3
 endloop
endfacet
endsolid tetra
)";
}

/// A glTF triangle pair: two nodes of one mesh, the second moved up and mirrored.
std::string gltf() {
  const float places[9] = {0, 0, 0, 0.1f, 0, 0, 0, 0.1f, 0.02f};
  std::vector<unsigned char> bytes(36);
  std::memcpy(bytes.data(), places, 36);
  const Json json{
      {"asset", {{"version", "2.0"}}},
      {"scene", 0},
      {"scenes", {{{"nodes", {0, 1}}}}},
      {"nodes", {{{"mesh", 0}}, {{"mesh", 0}, {"translation", {0, 0.1, 0}}, {"scale", {-1, 1, 1}}}}},
      {"materials",
       {{{"name", "brass"},
         {"pbrMetallicRoughness",
          {{"baseColorFactor", {0.8, 0.6, 0.3, 1}}, {"metallicFactor", 1.0}, {"roughnessFactor", 0.2}}}}}},
      {"meshes", {{{"primitives", {{{"attributes", {{"POSITION", 0}}}, {"material", 0}}}}}}},
      {"accessors",
       {{{"bufferView", 0},
         {"componentType", 5126},
         {"count", 3},
         {"type", "VEC3"},
         {"min", {0, 0, 0}},
         {"max", {0.1, 0.1, 0.02}}}}},
      {"bufferViews", {{{"buffer", 0}, {"byteOffset", 0}, {"byteLength", 36}}}},
      {"buffers",
       {{{"byteLength", 36}, {"uri", "data:application/octet-stream;base64," + base64_encoded(bytes)}}}}};
  return json.dump();
}

// Source: Wavefront OBJ, Appendix B1.
TEST_F(MeshFiles, AnObjGivesItsMaterialsAsPartsAndItsSizeByTheUnit) {
  write("box.mtl", mtl_box);
  const auto mesh = read_mesh_file(write("box.obj", obj_box));
  ASSERT_TRUE(mesh) << mesh.error().text();
  ASSERT_EQ(mesh->groups.size(), 2u);
  EXPECT_EQ(mesh->groups[0].name, "card");
  EXPECT_EQ(mesh->triangles, 12u);
  EXPECT_NEAR(mesh->groups[0].material["colour"][0].get<double>(), 0.2140, 1e-4)
      << "0.5 for the eye, IEC 61966-2-1";
  EXPECT_EQ(mesh->groups[1].material["kind"], "glass") << "seen through";
  const MeshReport mm = inspected(*mesh, {.metres_per_unit = 0.001});
  EXPECT_NEAR(mm.width, 0.08, 1e-9);
  EXPECT_NEAR(mm.height, 0.16, 1e-9);
  EXPECT_NEAR(mm.depth, 0.06, 1e-9);
  ASSERT_EQ(mm.remarks.size(), 2u) << "each part alone is open";
  EXPECT_EQ(mm.remarks[0], "card: 4 open edges, a shell or a body with holes. Glass and liquid need it closed.");
}

// Own behaviour.
TEST_F(MeshFiles, ItsTrianglesAreReadOnceForAllWhoShareThem) {
  const auto mesh = read_mesh_file(write("tetra.stl", ascii_stl()));
  const auto next =
      with_mesh_product(empty_document("New"), *mesh, {.metres_per_unit = 0.01, .z_up = true}, "Wedge");
  ASSERT_TRUE(next);
  ProjectReader one, other;
  const auto first = one.read(*next).products[0], second = other.read(*next).products[0];
  EXPECT_EQ(first->parts[0].mesh, second->parts[0].mesh);
  const auto& blob = next->blobs.begin()->second;
  const Blob copy = *blob;  // a copy reads for itself: its bytes may come to differ
  EXPECT_NE(copy.memo.get<PartMesh>([&] { return std::make_shared<const PartMesh>(); }), first->parts[0].mesh);
  EXPECT_EQ(copy, *blob);
  EXPECT_EQ(with_mesh_product(empty_document("New"), *mesh, {.metres_per_unit = 100}, "X").error().place, "unit");
}

// Own behaviour.
TEST_F(MeshFiles, ThousandsOfGroupsAreJoinedToTwelve) {
  std::string text;
  for (int k = 0; k < 10000; ++k)
    text += "g group" + std::to_string(k) + "\nv " + std::to_string(k % 100) + " 0 0\nv 0 1 0\nv 0 0 " +
            std::to_string(1 + k % 7) + "\nf -3 -2 -1\n";
  const auto mesh = read_mesh_file(write("crowd.obj", text));
  ASSERT_TRUE(mesh) << mesh.error().text();
  EXPECT_EQ(mesh->groups.size(), 12u);
  EXPECT_EQ(mesh->groups.back().name, "rest");
  EXPECT_EQ(mesh->triangles, 10000u);
}

struct PromiseRow {
  const char* pointer;
  Json value;
};
class GltfPromise : public MeshFiles, public testing::WithParamInterface<PromiseRow> {};
/// glTF 2.0, 3.6.2: an accessor needs no bytes behind it. A file of a kilobyte that promises gigabytes is refused.
// Source: glTF 2.0 (Khronos), 3.6.2.
TEST_P(GltfPromise, IsBoundedBeforeMemoryIsTaken) {
  Json json = Json::parse(gltf());
  json[Json::json_pointer(GetParam().pointer)] = GetParam().value;
  const auto mesh = read_mesh_file(write("bomb.gltf", json.dump()));
  EXPECT_FALSE(mesh);
}
INSTANTIATE_TEST_SUITE_P(
    Files, GltfPromise,
    testing::Values(PromiseRow{"/accessors/0", {{"componentType", 5126}, {"count", 2000000000}, {"type", "VEC3"}}},
                    PromiseRow{"/accessors/0/count", 4e9}, PromiseRow{"/accessors/0/count", -1e18},
                    PromiseRow{"/accessors/0/count", "many"}, PromiseRow{"/buffers/0/byteLength", 4e9},
                    PromiseRow{"/accessors", "none"}));

// Own behaviour.
TEST_F(MeshFiles, AFlatSheetHasNothingThatStandsUp) {
  const auto mesh = read_mesh_file(write("flat.obj", "v 0 0 0\nv 9 0 0\nv 9 0 9\nv 0 0 9\nf 1 2 3 4\n"));
  ASSERT_TRUE(mesh);
  const auto lying = with_mesh_product(empty_document("New"), *mesh, {.metres_per_unit = 0.01}, "X");
  ASSERT_FALSE(lying);
  EXPECT_EQ(lying.error().mend, "check which way is up");
  EXPECT_TRUE(with_mesh_product(empty_document("New"), *mesh, {.metres_per_unit = 0.01, .z_up = true}, "X"));
}

// Own behaviour.
TEST_F(MeshFiles, FacesWithoutAreaAreLeftOut) {
  std::string flat = obj_box;
  flat += "f 1 1 2\nf 3 3 3\n";
  flat.replace(flat.find("usemtl shiny\n"), 13, "");
  const auto mesh = read_mesh_file(write("flat.obj", flat));
  ASSERT_TRUE(mesh);
  EXPECT_TRUE(inspected(*mesh, {.metres_per_unit = 0.001}).remarks.empty()) << "closed for all that";
}

// Own behaviour.
TEST_F(MeshFiles, ATypedHeightFindsTheUnitThatFits) {
  const auto mesh = read_mesh_file(write("box.obj", obj_box));
  ASSERT_TRUE(mesh);
  const MeshChoice wrong{.metres_per_unit = 0.01, .height = 0.16};
  const MeshReport report = inspected(*mesh, wrong);
  EXPECT_FALSE(report.agrees);
  EXPECT_EQ(report.remarks[0],
            "By that unit it is 1.60 m high, and 160 mm is typed. In millimetres it would agree.");
  const Document none = empty_document("New");
  EXPECT_EQ(with_mesh_product(none, *mesh, wrong, "Box").error().place, "height");
  // Scaled to the height whatever the unit: half as high, half as wide.
  const auto scaled =
      with_mesh_product(none, *mesh, {.metres_per_unit = 0.01, .height = 0.08, .scaled_to_height = true}, "Box");
  ASSERT_TRUE(scaled);
  ProjectReader reader;
  const Extent box = extent(*reader.read(*scaled).products[0]);
  EXPECT_NEAR(box.height(), 0.08, 1e-6);
  EXPECT_NEAR(box.width(), 0.04, 1e-6);
  EXPECT_NEAR(inspected(*mesh, {.metres_per_unit = 0.001, .height = 0.1625}).agrees, true, 0) << "within 2 %";
}

// Source: 3D Systems 1989, StereoLithography Interface Specification.
TEST_F(MeshFiles, AnStlStandsUpAndIsRightInTheProject) {
  const auto mesh = read_mesh_file(write("tetra.stl", ascii_stl()));
  ASSERT_TRUE(mesh) << mesh.error().text();
  EXPECT_TRUE(mesh->z_up);
  EXPECT_FALSE(mesh->in_metres);
  const auto next =
      with_mesh_product(empty_document("New"), *mesh, {.metres_per_unit = 0.01, .z_up = true}, "Wedge");
  ASSERT_TRUE(next);
  EXPECT_TRUE(validate(next->to_json()).empty());
  ProjectReader reader;
  const Project project = reader.read(*next);
  const Product& product = *project.products[0];
  EXPECT_EQ(product.id, "wedge1");
  const Extent box = extent(product);
  EXPECT_NEAR(box.low, 0, 1e-6);
  EXPECT_NEAR(box.high, 0.03, 1e-6) << "its Z is up";
  EXPECT_NEAR(box.left, -0.01, 1e-4) << "its middle on the axis";
  ASSERT_TRUE(product.parts[0].mesh);
  EXPECT_TRUE(product.parts[0].mesh->edges.closed());
  // A tetrahedron: a sixth of the box, outside out.
  EXPECT_NEAR(enclosed_volume(product.parts[0].mesh->corners), 0.02 * 0.02 * 0.03 / 6, 1e-10);
}

// Source: glTF 2.0 (Khronos), 3.5.
TEST_F(MeshFiles, AGltfIsInMetresWithItsNodesInPlace) {
  const auto mesh = read_mesh_file(write("pair.gltf", gltf()));
  ASSERT_TRUE(mesh) << mesh.error().text();
  EXPECT_TRUE(mesh->in_metres);
  ASSERT_EQ(mesh->groups.size(), 2u) << "one material: its things are the parts";
  EXPECT_EQ(mesh->triangles, 2u);
  EXPECT_EQ(mesh->groups[0].material["kind"], "metal");
  EXPECT_NEAR(mesh->groups[0].material["roughness"].get<double>(), 0.2, 1e-6);
  const MeshReport report = inspected(*mesh, {.metres_per_unit = 1});
  EXPECT_NEAR(report.width, 0.2, 1e-6) << "the second is mirrored to the left";
  EXPECT_NEAR(report.height, 0.2, 1e-6);
  for (const MeshGroup& g : mesh->groups)
    EXPECT_GT(cross(g.corners[1] - g.corners[0], g.corners[2] - g.corners[0]).z, 0)
        << "a mirrored face still looks the same way";
}

// Own behaviour.
TEST_F(MeshFiles, TurnedOutsideOutWhereAllFacesLookInward) {
  std::string inside = obj_box;
  for (const auto& [from, to] : std::vector<std::pair<std::string, std::string>>{{"f 1 2 3 4", "f 4 3 2 1"},
                                                                                 {"f 4 3 7 8", "f 8 7 3 4"},
                                                                                 {"f 2 1 5 6", "f 6 5 1 2"},
                                                                                 {"f 3 2 6 7", "f 7 6 2 3"},
                                                                                 {"f 1 4 8 5", "f 5 8 4 1"},
                                                                                 {"f 8 7 6 5", "f 5 6 7 8"},
                                                                                 {"usemtl shiny\n", ""}})
    inside.replace(inside.find(from), from.size(), to);
  const auto mesh = read_mesh_file(write("inside.obj", inside));
  ASSERT_TRUE(mesh);
  const auto next = with_mesh_product(empty_document("New"), *mesh, {.metres_per_unit = 0.001}, "");
  ProjectReader reader;
  const Project project = reader.read(*next);
  EXPECT_NEAR(enclosed_volume(project.products[0]->parts[0].mesh->corners), 0.08 * 0.16 * 0.06, 1e-8);
  EXPECT_EQ(project.products[0]->name, "inside") << "named by the file where no name is typed";
}

// Own behaviour.
TEST_F(HostileMesh, WhatIsNoMeshIsRefusedByName) {
  EXPECT_NE(read_mesh_file(folder_ / "none.obj").error().message.find("cannot be read"), std::string::npos);
  EXPECT_NE(read_mesh_file(write("a.fbx", "x")).error().mend.find("OBJ, glTF"), std::string::npos);
  EXPECT_FALSE(read_mesh_file(write("empty.obj", "")));
  EXPECT_FALSE(read_mesh_file(write("text.stl", "hello")));
  EXPECT_FALSE(read_mesh_file(write("points.obj", "v 0 0 0\nv 1 1 1\np 1 2\n")));
  EXPECT_FALSE(read_mesh_file(write("flat.obj", "v 0 0 0\nv 0 0 0\nv 0 0 0\nf 1 2 3\n")));
  EXPECT_FALSE(read_mesh_file(write("nan.obj", "v nan 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n")));
  EXPECT_FALSE(read_mesh_file(write("far.obj", "v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 9\n")));
  std::string deep = "{\"asset\":";
  for (int k = 0; k < 5000; ++k) deep += '[';
  EXPECT_NE(read_mesh_file(write("deep.gltf", deep)).error().message.find("nested too deeply"), std::string::npos);
  Json circle = Json::parse(gltf());
  circle["nodes"][0]["children"] = {1};
  circle["nodes"][1]["children"] = {0};
  EXPECT_NE(read_mesh_file(write("circle.gltf", circle.dump())).error().message.find("without end"),
            std::string::npos);
  Json outside = Json::parse(gltf());
  outside["buffers"][0]["uri"] = "../../../../etc/passwd";
  EXPECT_FALSE(read_mesh_file(write("outside.gltf", outside.dump()))) << "only files beside it";
}

// Own behaviour.
TEST_F(HostileMesh, KeptTrianglesComeBackAndDamagedOnesAreRefused) {
  const auto corners = read_mesh_file(write("box.obj", obj_box))->groups[0].corners;
  const auto good = stl_of(corners);
  EXPECT_EQ(*corners_of_stl(good), corners);
  for (std::size_t cut = 0; cut < good.size(); ++cut)
    EXPECT_FALSE(corners_of_stl({good.begin(), good.begin() + static_cast<std::ptrdiff_t>(cut)})) << cut;
  auto bad = good;
  const float nan = std::nanf("");
  std::memcpy(&bad[96], &nan, 4);
  EXPECT_EQ(corners_of_stl(bad).error().message, "has no place in triangle 1");
  bad = good;
  bad[83] = 0xff;
  EXPECT_NE(corners_of_stl(bad).error().message.find("triangles, over 300000"), std::string::npos);
}

class HostileMeshBytes : public HostileMesh, public testing::WithParamInterface<std::pair<const char*, int>> {};
// Own behaviour.
TEST_P(HostileMeshBytes, CutOrScrambledIsRefusedOrReadAndNeverWorse) {
  const std::string name = GetParam().first;
  const std::string whole = name == "x.obj" ? obj_box : name == "x.stl" ? ascii_stl() : gltf();
  std::mt19937 random(static_cast<unsigned>(GetParam().second));
  std::string binary;
  if (name == "b.stl") {
    const auto bytes = stl_of(part_mesh(read_mesh_file(write("t.stl", ascii_stl()))->groups[0].corners).corners);
    binary.assign(bytes.begin(), bytes.end());
  }
  const std::string& source = binary.empty() ? whole : binary;
  int read = 0;
  for (int k = 0; k < 150; ++k) {
    std::string bytes = source;
    if (k % 3 == 0) bytes.resize(random() % bytes.size());
    for (unsigned n = random() % 4; k % 3 && n-- + 1 > 0;)
      bytes[random() % bytes.size()] =
          static_cast<char>(k % 3 == 1 ? random() % 256 : "0123456789.-/ef\n"[random() % 16]);
    const auto mesh = read_mesh_file(write(name, bytes));
    if (!mesh) {
      EXPECT_FALSE(mesh.error().message.empty());
      continue;
    }
    ++read;
    (void)inspected(*mesh, {.metres_per_unit = 0.001});
    (void)with_mesh_product(empty_document("New"), *mesh, {.metres_per_unit = 0.001}, "X");
  }
  RecordProperty("read", read);
}
INSTANTIATE_TEST_SUITE_P(Files, HostileMeshBytes,
                         testing::Values(std::pair{"x.obj", 1}, std::pair{"x.stl", 2}, std::pair{"b.stl", 3},
                                         std::pair{"x.gltf", 4}));

}  // namespace
}  // namespace cinnabar
