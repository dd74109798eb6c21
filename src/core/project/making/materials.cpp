#include "cinnabar/project/making/materials.h"

namespace cinnabar {

const std::vector<ReadyMaterial>& ready_materials() {
  static const std::vector<ReadyMaterial> list = [] {
    const Json parsed = Json::parse(R"([
 ["matte-paint", "matte paint", "painted", {"kind": "matte", "colour": [0.5, 0.5, 0.5]}],
 ["soft-plastic", "soft plastic", "painted", {"kind": "satin", "colour": [0.55, 0.55, 0.55], "roughness": 0.55}],
 ["gloss-plastic", "glossy plastic", "painted", {"kind": "gloss", "colour": [0.5, 0.08, 0.06], "ior": 1.5}],
 ["black-plastic", "black plastic", "painted", {"kind": "gloss", "colour": [0.015, 0.015, 0.015], "ior": 1.5}],
 ["anodised", "dyed aluminium", "painted",
  {"kind": "satin", "colour": [0.05, 0.12, 0.3], "roughness": 0.45, "ior": 1.77, "brushing": 0.6}],
 ["polished-steel", "polished steel", "metal", {"kind": "metal", "colour": [0.58, 0.57, 0.55], "roughness": 0.08}],
 ["brushed-steel", "steel brushed round", "metal",
  {"kind": "metal", "colour": [0.58, 0.57, 0.55], "roughness": 0.4, "brushing": 0.8}],
 ["brushed-upright", "aluminium brushed upright", "metal",
  {"kind": "metal", "colour": [0.91, 0.92, 0.92], "roughness": 0.42, "brushing": -0.8}],
 ["cast-metal", "cast metal", "metal",
  {"kind": "metal", "colour": [0.5, 0.49, 0.48], "roughness": 0.55, "relief": {"size": 0.0025, "depth": 0.00012}}],
 ["gold", "gold", "metal", {"kind": "metal", "colour": [1.0, 0.77, 0.34], "roughness": 0.15}],
 ["copper", "copper", "metal", {"kind": "metal", "colour": [0.95, 0.64, 0.54], "roughness": 0.25}],
 ["mirror", "mirror", "metal", {"kind": "mirror", "colour": [0.88, 0.88, 0.88]}],
 ["clear-glass", "clear glass", "clear", {"kind": "glass", "ior": 1.52}],
 ["frosted-glass", "frosted glass", "clear", {"kind": "frosted", "ior": 1.52, "roughness": 0.45}],
 ["amber-glass", "amber glass", "clear", {"kind": "glass", "ior": 1.52, "absorption": [20, 90, 400]}],
 ["water", "water", "clear", {"kind": "liquid", "ior": 1.333}, false],
 ["oil", "oil", "clear", {"kind": "liquid", "ior": 1.47, "absorption": [2, 6, 60]}, false],
 ["candle-wax", "candle wax", "deep",
  {"kind": "translucent", "ior": 1.44, "roughness": 0.45, "scattering": [900, 900, 900], "absorption": [2, 4, 12]},
  false],
 ["soap", "soap", "deep",
  {"kind": "translucent", "ior": 1.45, "roughness": 0.35, "scattering": [1400, 1400, 1400],
   "absorption": [4, 9, 7]}, false],
 ["milk", "milk", "deep",
  {"kind": "translucent", "ior": 1.35, "scattering": [2500, 3000, 3500], "absorption": [1, 2, 12]}, false],
 ["jelly", "jelly", "deep",
  {"kind": "translucent", "ior": 1.38, "scattering": [60, 60, 60], "absorption": [5, 90, 110]}, false],
 ["porcelain", "porcelain", "deep",
  {"kind": "translucent", "ior": 1.5, "scattering": [3000, 3000, 3000], "absorption": [6, 8, 11]}, false],
 ["orange-skin", "orange skin", "food",
  {"kind": "satin", "colour": [0.82, 0.27, 0.02], "roughness": 0.5, "relief": {"size": 0.0022, "depth": 0.00018}}],
 ["chilli-skin", "chilli skin", "food",
  {"kind": "satin", "colour": [0.45, 0.02, 0.012], "roughness": 0.3, "relief": {"size": 0.009, "depth": 0.0003}}],
 ["peach-skin", "peach skin", "food",
  {"kind": "cloth", "colour": [0.75, 0.3, 0.15], "sheen": 0.35, "roughness": 0.5}],
 ["leather", "leather", "cloth",
  {"kind": "satin", "colour": [0.16, 0.07, 0.035], "roughness": 0.6, "relief": {"size": 0.0018, "depth": 0.00015}}],
 ["cotton", "cotton", "cloth", {"kind": "cloth", "colour": [0.7, 0.68, 0.63], "sheen": 0.1, "roughness": 0.6}],
 ["velvet", "velvet", "cloth", {"kind": "cloth", "colour": [0.12, 0.005, 0.012], "sheen": 0.5, "roughness": 0.35}],
 ["plain-paper", "plain paper", "paper", {"kind": "paper", "colour": [0.8, 0.78, 0.74]}],
 ["coated-paper", "coated paper", "paper",
  {"kind": "satin", "colour": [0.8, 0.79, 0.77], "roughness": 0.4, "ior": 1.45}],
 ["film-label", "glossy film", "paper", {"kind": "gloss", "colour": [0.8, 0.8, 0.8], "ior": 1.49}],
 ["screen", "lit screen", "paper", {"kind": "gloss", "colour": [1, 1, 1], "ior": 1.5, "screen": 350}]
])");
    std::vector<ReadyMaterial> made;
    for (const Json& row : parsed)
      made.push_back({row[0], row[1], row[2], row[3], row.size() < 5 || row[4].get<bool>()});
    return made;
  }();
  return list;
}

const ReadyMaterial* ready_material_of(const Json& material) {
  if (!material.is_object()) return nullptr;
  Json bare = material;
  bare.erase("cover");
  for (const ReadyMaterial& ready : ready_materials())
    if (ready.material == bare) return &ready;
  return nullptr;
}

const std::vector<ReadyCover>& ready_covers() {
  static const std::vector<ReadyCover> list{
      {"droplets", "drops", 0.003}, {"dust", "dust", 0.0004}, {"fingerprints", "fingerprints", 0.018}};
  return list;
}

}  // namespace cinnabar
