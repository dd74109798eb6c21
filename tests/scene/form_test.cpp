// The outer form of parts that are wider than deep, boxes and meshes: against closed forms of plane geometry.
#include "cinnabar/scene/form.h"

#include <cmath>

#include "cinnabar/project/making/product_kinds.h"
#include "cinnabar/scene/staged.h"
#include "worlds.h"

namespace cinnabar {
namespace {

Product product_of(const Json& json) {
  Json doc = worlds::bare();
  doc["products"] = Json::array({json});
  return *worlds::read(doc).products[0];
}
Product kind_of(const std::string& kind, const std::map<std::string, double>& measures) {
  return product_of(*built_product({{"id", "p"}, {"name", "P"}, {"mass", 1}}, kind, measures));
}
Product with_parts(const Json& parts) { return product_of({{"id", "p"}, {"parts", parts}}); }

/// Volume inside a part's staged triangles by the divergence theorem; every edge has to be shared.
double volume_of(const Product& product, std::size_t part, int segments = 96) {
  std::vector<Medium> media;
  const auto meshes = product_meshes(product, media, segments);
  std::vector<Vec3f> corners;
  for (const std::uint32_t k : meshes[part].triangles) corners.push_back(meshes[part].positions[0][k]);
  EXPECT_TRUE(count_edges(corners).closed());
  return enclosed_volume(corners);
}

// Common practice, no source: closed forms of solids.
TEST(Form, SolidsHaveTheirVolume) {
  EXPECT_NEAR(volume_of(kind_of("carton", {{"height", 0.16}, {"width", 0.09}, {"depth", 0.06}}), 0),
              0.16 * 0.09 * 0.06, 1e-9);
  // An upright elliptic cylinder, pi a b h.
  const Json ellipse{{{"id", "e"}, {"profile", {{0, 0, 0}, {0.05, 0, 0.02}, {0.05, 0.1, 0.02}, {0, 0.1, 0}}}}};
  EXPECT_NEAR(volume_of(with_parts(ellipse), 0), pi * 0.05 * 0.02 * 0.1, 1e-7);
  // Rounded upright edges take (4 - pi) r^2 from the section.
  Json rounded{{{"id", "r"},
                {"section", "box"},
                {"corner", 0.01},
                {"profile", {{0, 0, 0}, {0.05, 0, 0.02}, {0.05, 0.1, 0.02}, {0, 0.1, 0}}}}};
  EXPECT_NEAR(volume_of(with_parts(rounded), 0, 960), (0.1 * 0.04 - (4 - pi) * 1e-4) * 0.1, 3e-8);
  // A pyramid: a third of base times height.
  const Json pyramid{{{"id", "y"}, {"section", "box"}, {"profile", {{0, 0, 0}, {0.04, 0, 0.03}, {0, 0.09, 0}}}}};
  EXPECT_NEAR(volume_of(with_parts(pyramid), 0), 0.08 * 0.06 * 0.09 / 3, 1e-9);
}

// Own behaviour, against plane geometry worked by hand.
TEST(Form, AWallIsAsThickInFrontAsAtTheSide) {
  const Product flask = kind_of("flask", {{"corner", 0}, {"cap", 0}, {"fill", 0}, {"wall", 0.004}});
  const auto meshes = [&] {
    std::vector<Medium> media;
    return product_meshes(flask, media, 48);
  }();
  std::set<int> x, z;  // outermost planes, in tenths of a millimetre
  for (const Vec3f& v : meshes[0].positions[0])
    if (std::abs(v.y - 0.05f) < 0.054f)
      x.insert(static_cast<int>(std::lround(std::abs(v.x) * 1e4f))),
          z.insert(static_cast<int>(std::lround(std::abs(v.z) * 1e4f)));
  EXPECT_TRUE(x.contains(350) && x.contains(310)) << "width 70 mm and 62 mm inside";
  EXPECT_TRUE(z.contains(150) && z.contains(110)) << "depth 30 mm and 22 mm inside";
}

// Own behaviour, against plane geometry worked by hand.
TEST(Form, ASideIsMetWhereTheRayMeetsIt) {
  const Product carton = kind_of("carton", {{"height", 0.16}, {"width", 0.08}, {"depth", 0.06}});
  const auto front = side_at(carton, 0.08, 0), right = side_at(carton, 0.08, 90),
             slant = side_at(carton, 0.08, 20);
  ASSERT_TRUE(front && right && slant);
  EXPECT_NEAR(length(front->at - Vec3{0, 0.08, 0.03}), 0, 1e-12);
  EXPECT_NEAR(length(right->at - Vec3{0.04, 0.08, 0}), 0, 1e-12);
  EXPECT_NEAR(slant->at.z, 0.03, 1e-12) << "still the front";
  EXPECT_NEAR(slant->at.x, 0.03 * std::tan(radians(20)), 1e-12);
  EXPECT_NEAR(dot(slant->out, Vec3{0, 0, 1}), 1, 1e-9) << "and faces as the front does";
  EXPECT_NEAR(reach_at(carton, 0.08, degrees(std::atan2(4, 3))), 0.05, 1e-9) << "3-4-5 to the edge";
  EXPECT_FALSE(side_at(carton, 0.2, 0)) << "nothing above it";
  EXPECT_NEAR(widest_reach(carton), 0.05, 1e-9);
  const Extent box = extent(kind_of("shoe", {{"length", 0.28}, {"width", 0.1}, {"height", 0.11}}));
  EXPECT_NEAR(box.width(), 0.28, 2e-6);
  EXPECT_NEAR(box.depth(), 0.1, 2e-6);
  EXPECT_NEAR(box.height(), 0.11, 1e-6);
}

class FormRays : public testing::TestWithParam<const char*> {};
// Own behaviour: inverses.
TEST_P(FormRays, SideAndRimAgreeAndNormalsLookOutward) {
  const Product product = kind_of(GetParam(), {});
  for (const Part& part : product.parts)
    for (std::size_t k = 1; k + 1 < part.profile.size(); ++k) {
      const ProfilePoint& p = part.profile[k];
      if (p.radius <= 1e-6) continue;
      for (const RimPoint& edge : rim(part, p, 36)) {
        const Vec3 axis{p.shift, p.height, 0};
        EXPECT_GT(dot(edge.out, edge.at - axis), -1e-12) << part.id << k;
        const double bearing = degrees(std::atan2(edge.at.x - p.shift, edge.at.z));
        const auto here = section_at(part, p.height);
        if (!here || std::abs(here->radius - p.radius) > 1e-9) continue;  // another section is wider there
        const auto side = side_at(part, p.height, bearing);
        ASSERT_TRUE(side);
        EXPECT_NEAR(length(side->at - edge.at), 0, 1e-9) << part.id << " " << k << " at " << bearing;
      }
    }
}
INSTANTIATE_TEST_SUITE_P(Kinds, FormRays,
                         testing::Values("carton", "flask", "device", "pouch", "shoe", "jar", "bowl"));

// Own behaviour, against plane geometry worked by hand.
TEST(Form, ALabelLiesEvenlyOnAFlatFaceAndRoundAnEdge) {
  Json json = *built_product({{"id", "p"}, {"name", "P"}}, "carton", {{"width", 0.08}, {"depth", 0.06}});
  // The whole front and as much of the right side: from the front's left edge.
  const double edge = degrees(std::atan2(0.04, 0.03));
  json["label"] = {{"part", "carton"}, {"bearing_deg", 0}, {"arc_deg", 2 * edge}, {"low", 0.02}, {"high", 0.1}};
  const Product carton = product_of(json);
  const auto points = label_points(carton, 9, 3);
  ASSERT_EQ(points.size(), 27u);
  for (std::size_t c = 0; c < 9; ++c) {
    EXPECT_NEAR(points[c].at.x, -0.04 + 0.01 * static_cast<double>(c), 3e-4) << "even along the face";
    EXPECT_NEAR(points[c].at.z, 0.03, 1e-9);
  }
  EXPECT_NEAR(points[26].at.y, 0.1, 1e-12);
}

// Own behaviour, against plane geometry worked by hand.
TEST(Form, ALabelIsAsWideAtEveryHeight) {
  Json json = *built_product({{"id", "p"}, {"name", "P"}}, "pouch", {});
  json["label"] = {{"part", "pouch"}, {"bearing_deg", 0}, {"arc_deg", 80}, {"low", 0.03}, {"high", 0.15}};
  const auto points = label_points(product_of(json), 33, 5);
  ASSERT_EQ(points.size(), 33u * 5u);
  std::vector<double> widths;
  for (std::size_t row = 0; row < 5; ++row) {
    widths.push_back(0);
    for (std::size_t c = 1; c < 33; ++c)
      widths.back() += length(points[row * 33 + c].at - points[row * 33 + c - 1].at);
  }
  for (const double w : widths) EXPECT_NEAR(w, widths[2], 0.01 * widths[2]) << "paper does not shrink";
}

// Own behaviour, against plane geometry worked by hand.
TEST(Form, LevelsOfABoxKnowItsEdges) {
  // frame.size of a box turned 45 degrees: the nearer edge counts; the height on the sensor by the pinhole.
  Json doc = worlds::bare();
  doc["products"] = Json::array({*built_product({{"id", "p"}, {"name", "P"}}, "carton", {})});
  const Project project = worlds::read(doc);
  EXPECT_NEAR(extent(*project.products[0]).front, 0.03, 1e-12);
  EXPECT_NEAR(extent(*project.products[0]).right, 0.045, 1e-12);
}

/// A box of triangles of these half sizes, foot at 0, moved sideways.
std::vector<Vec3f> block(double a, double h, double b, double x = 0) {
  const auto at = [&](int k) { return Vec3{x + (k & 1 ? a : -a), k & 2 ? h : 0.0, k & 4 ? b : -b}.as<float>(); };
  const int faces[6][4] = {{4, 5, 7, 6}, {1, 0, 2, 3}, {5, 1, 3, 7}, {0, 4, 6, 2}, {6, 7, 3, 2}, {0, 1, 5, 4}};
  std::vector<Vec3f> out;
  for (const auto& f : faces)
    for (const int k : {f[0], f[1], f[2], f[0], f[2], f[3]}) out.push_back(at(k));
  return out;
}

// Own behaviour, against plane geometry worked by hand.
TEST(Form, AMeshIsMetAsTheBodyThatItIs) {
  const PartMesh mesh = part_mesh(block(0.04, 0.16, 0.03));
  EXPECT_TRUE(mesh.edges.closed());
  EXPECT_EQ(mesh.triangles(), 12u);
  EXPECT_NEAR(enclosed_volume(mesh.corners), 0.08 * 0.16 * 0.06, 1e-9);
  EXPECT_NEAR(mesh.sections[24].reach_at(0), 0.03, 1e-6);
  EXPECT_NEAR(mesh.sections[24].reach_at(270), 0.04, 1e-6);
  EXPECT_NEAR(mesh.sections[24].reach_at(20), 0.03 / std::cos(radians(20)), 1e-5);
  Json doc = worlds::bare();
  doc["blobs"] = {{"m", {{"type", "model/stl"}, {"data", base64_encoded(stl_of(block(0.04, 0.16, 0.03, 0.1)))}}}};
  doc["products"] = {{{"id", "p"}, {"parts", {{{"id", "body"}, {"mesh", "m"}}}}}};
  const Product product = *worlds::read(doc).products[0];
  const auto side = side_at(product, 0.07, 90);
  ASSERT_TRUE(side);
  EXPECT_NEAR(length(side->at - Vec3{0.14, 0.07, 0}), 0, 1e-6);
  EXPECT_NEAR(side->out.x, 1, 1e-6);
  const Extent box = extent(product);
  EXPECT_NEAR(box.left, 0.06, 1e-6);
  EXPECT_NEAR(box.front, 0.03, 1e-6);
  EXPECT_NEAR(volume_of(product, 0), 0.08 * 0.16 * 0.06, 1e-8);
}

// Own behaviour, against plane geometry worked by hand.
TEST(Form, AMeshsRoundSidesAreSmoothAndItsEdgesAreNot) {
  const Product can = kind_of("can", {});
  std::vector<Medium> media;
  const auto meshes = product_meshes(can, media, 48);
  std::vector<Vec3f> corners;
  for (const std::uint32_t k : meshes[0].triangles) corners.push_back(meshes[0].positions[0][k]);
  const PartMesh mesh = part_mesh(corners);
  for (std::size_t k = 0; k < mesh.corners.size(); ++k) {
    const Vec3 at = mesh.corners[k].as<double>(), n = mesh.normals[k].as<double>();
    if (at.y < 0.03 || at.y > 0.09 || std::abs(n.y) > 0.5) continue;
    EXPECT_GT(dot(n, unit(Vec3{at.x, 0, at.z})), 0.99) << "as the cylinder's own";
  }
  for (const Vec3f& n : part_mesh(block(1, 1, 1)).normals)
    EXPECT_NEAR(std::max({std::abs(n.x), std::abs(n.y), std::abs(n.z)}), 1, 1e-6) << "a box stays square";
}

// Own behaviour, against plane geometry worked by hand.
TEST(Form, EdgesThatAreOpenCrowdedOrTurnedAreCounted) {
  auto open = block(1, 1, 1);
  open.resize(open.size() - 3);
  EXPECT_EQ(count_edges(open).open, 3u);
  auto turned_face = block(1, 1, 1);
  std::swap(turned_face[0], turned_face[1]);
  EXPECT_EQ(count_edges(turned_face).turned, 3u);
  auto twice = block(1, 1, 1);
  const auto more = block(1, 1, 1);
  twice.insert(twice.end(), more.begin(), more.end());
  EXPECT_EQ(count_edges(twice).crowded, 18u) << "twelve edges and six diagonals";
}

}  // namespace
}  // namespace cinnabar
