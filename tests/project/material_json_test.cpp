// Materials written as a document has them: read again they are the same.
#include "cinnabar/project/model/material.h"

#include "worlds.h"

namespace cinnabar {
namespace {

Material read_again(const Json& material) {
  Json doc = worlds::bare();
  doc["blobs"] = {{"dot", {{"type", "image/png"}, {"data", worlds::dot_png}}}};
  doc["setups"][0]["cards"] = Json::array({worlds::card("c", {0, 0, 1}, {0, 0, 0}, 1, 1, material)});
  return worlds::read(doc).setups[0]->cards[0].material;
}

TEST(MaterialJson, KeepsEveryField) {
  const Json texture{{"kind", "marble"}, {"size", 0.3}, {"turn_deg", 12}, {"colour", {0.1, 0.2, 0.3}}};
  for (const Json& material : std::vector<Json>{
           {{"kind", "matte"}, {"colour", {0.1, 0.2, 0.3}}, {"sheen", 0.4}, {"roughness", 0.2}},
           {{"kind", "satin"}, {"colour", {0.1, 0.2, 0.3}}, {"roughness", 0.0}, {"ior", 1.4}, {"brushing", -0.3}},
           {{"kind", "metal"}, {"colour", {0.1, 0.2, 0.3}}, {"roughness", 0.25}, {"brushing", 0.5}},
           {{"kind", "glass"}, {"colour", {0.9, 1.0, 0.9}}, {"ior", 1.6}, {"absorption", {1, 2, 3}}},
           {{"kind", "frosted"}, {"colour", {1, 1, 1}}, {"roughness", 0.1}, {"ior", 1.5}},
           {{"kind", "liquid"}, {"colour", {1, 1, 1}}, {"ior", 1.36}, {"absorption", {0, 2, 30}}},
           {{"kind", "translucent"},
            {"colour", {0.9, 0.9, 0.9}},
            {"ior", 1.5},
            {"transmittance", 0.7},
            {"forward", 0.4},
            {"lobe_deg", 9}},
           {{"kind", "translucent"}, {"colour", {0.9, 0.9, 0.9}}, {"ior", 1.45}, {"scattering", {10, 20, 30}}},
           {{"kind", "gloss"}, {"colour", {0.1, 0.2, 0.3}}, {"ior", 1.5}, {"screen", 300}, {"textured", true}},
           {{"kind", "paper"},
            {"colour", {0.5, 0.5, 0.5}},
            {"relief", {{"size", 0.001}, {"depth", 0.0002}}},
            {"cover", {{"kind", "dust"}, {"share", 0.2}, {"size", 0.001}}}},
           {{"kind", "cloth"}, {"colour", {0.5, 0.5, 0.5}}, {"texture", texture}},
           {{"kind", "matte"}, {"colour", {0.5, 0.5, 0.5}}, {"texture", texture}, {"textured", false}},
           {{"kind", "matte"}, {"texture", {{"kind", "picture"}, {"picture", "dot"}, {"size", 0.2}}}}}) {
    SCOPED_TRACE(material.dump());
    const Material is = read_again(material), again = read_again(material_json(is));
    EXPECT_EQ(material_json(again), material_json(is));
    EXPECT_EQ(again.colour, is.colour);
    for (const auto& [key, value] : material.items())
      if (key != "texture" && !(key == "textured" && value == is.texture.has_value()))
        EXPECT_EQ(material_json(is)[key], value) << key;
  }
}

}  // namespace
}  // namespace cinnabar
