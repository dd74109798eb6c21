#include "cinnabar/planning/set_looks.h"

#include <algorithm>

#include "cinnabar/base/words.h"
#include "cinnabar/project/model/names.h"

namespace cinnabar {
namespace {

using Kind = SetThing::Kind;

struct Sheet {
  std::string id, name;
  const char* material;
};
/// Reflectances, and what diffusion lets through (common practice, no source).
const std::vector<Sheet>& sheets() {
  static const std::vector<Sheet> all{
      {"white", said("White card"), R"({"kind": "matte", "colour": [0.85, 0.85, 0.85]})"},
      {"silver", said("Silver card"), R"({"kind": "metal", "colour": [0.9, 0.9, 0.9], "roughness": 0.35})"},
      {"black", said("Black flag"), R"({"kind": "cloth", "colour": [0.02, 0.02, 0.02]})"},
      {"frost", said("Frost diffusion"), R"({"kind": "translucent", "colour": [0.95, 0.95, 0.95],
        "transmittance": 0.85, "forward": 0.8, "lobe_deg": 8})"},
      {"silk", said("Silk diffusion"), R"({"kind": "translucent", "colour": [0.92, 0.92, 0.92],
        "transmittance": 0.5, "forward": 0.25, "lobe_deg": 20})"},
      {"baking", said("Baking paper"), R"({"kind": "translucent", "colour": [0.9, 0.89, 0.85],
        "transmittance": 0.6, "forward": 0.35, "lobe_deg": 15})"},
      {"towel", said("Paper towel"), R"({"kind": "translucent", "colour": [0.9, 0.9, 0.88],
        "transmittance": 0.4, "forward": 0.05, "lobe_deg": 15})"}};
  return all;
}

struct PatternRow {
  TextureKind kind;
  std::string name;
  std::optional<Vec3> ground;  ///< usual; nothing: the thing's own
};
const std::vector<PatternRow>& patterns() {
  static const std::vector<PatternRow> all{{TextureKind::wood, said("Wood grain"), Vec3{0.45, 0.29, 0.16}},
                                           {TextureKind::marble, said("Marble veins"), Vec3{0.75, 0.74, 0.72}},
                                           {TextureKind::stone, said("Speckled stone"), Vec3{0.4, 0.39, 0.37}},
                                           {TextureKind::weave, said("Woven cloth"), std::nullopt}};
  return all;
}

const Light* lamp_of(const OnSet& on, const SetThing& thing) {
  const Setup* setup = on.setup();
  return thing.kind == Kind::light && setup && thing.index < setup->lights.size() &&
                 !setup->lights[thing.index].window
             ? &setup->lights[thing.index]
             : nullptr;
}

/// The material of what can have a pattern.
const Material* patterned(const OnSet& on, const SetThing& thing) {
  const Setup* setup = on.setup();
  if (!setup) return nullptr;
  const Material* material = nullptr;
  switch (thing.kind) {
    case Kind::surface:
      if (setup->surface) material = &setup->surface->material;
      break;
    case Kind::backdrop:
      if (setup->backdrop.kind != BackdropKind::none) material = &setup->backdrop.material;
      break;
    case Kind::card:
      if (thing.index < setup->cards.size()) material = &setup->cards[thing.index].material;
      break;
    case Kind::body:
      if (thing.index < setup->gear.size() && setup->gear[thing.index].form == GearForm::box)
        material = &setup->gear[thing.index].material;
      break;
    default:
      break;
  }
  return material && !material->is_clear() ? material : nullptr;
}

/// The thing's material as the document has it, or as it is taken to be.
Json material_json(const OnSet& on, const std::string& pointer, const Material& is) {
  if (auto own = value_at(on.document, pointer); own && own->is_object()) return *own;
  return Json{{"kind", material_names()[static_cast<std::size_t>(is.kind)]},
              {"colour", {is.colour.x, is.colour.y, is.colour.z}}};
}

}  // namespace

std::vector<SheetKind> sheet_kinds() {
  std::vector<SheetKind> list;
  for (const Sheet& sheet : sheets()) list.push_back({sheet.id, sheet.name});
  return list;
}
Json sheet_material(const std::string& kind) {
  for (const Sheet& sheet : sheets())
    if (sheet.id == kind) return Json::parse(sheet.material);
  return Json::parse(sheets().front().material);
}
std::string sheet_of(const Json& material) {
  const std::string kind = material.is_object() ? material.value("kind", "matte") : "matte";
  for (const bool exactly : {true, false})
    for (const Sheet& sheet : sheets()) {
      const Json own = Json::parse(sheet.material);
      if (exactly ? own == material : own["kind"] == kind) return sheet.id;
    }
  return sheets().front().id;
}

std::vector<SheetKind> pattern_kinds() {
  std::vector<SheetKind> list;
  for (const PatternRow& row : patterns())
    list.push_back({texture_names()[static_cast<std::size_t>(row.kind)], row.name});
  return list;
}

std::optional<SetEdit> pattern_laid(const OnSet& on, const SetThing& thing, const std::string& kind) {
  const Material* is = patterned(on, thing);
  if (!is) return {};
  const std::string pointer = pointer_of(on, thing) + "/material", name = name_of(on, thing);
  if (kind.empty()) {
    if (!is->texture) return {};
    return SetEdit{{{pointer + "/texture", std::nullopt}}, said("{} without a pattern", name), thing};
  }
  for (const PatternRow& row : patterns()) {
    if (texture_names()[static_cast<std::size_t>(row.kind)] != kind ||
        (is->texture && is->texture->kind == row.kind))
      continue;
    Json material = material_json(on, pointer, *is);
    if (row.ground) material["colour"] = {row.ground->x, row.ground->y, row.ground->z};
    material["texture"] = Json{{"kind", kind}};
    return SetEdit{{{pointer, material}}, said("{}: {}", name, row.name), thing};
  }
  return {};
}

std::optional<SetEdit> picture_laid(const OnSet& on, const SetThing& thing, const std::string& blob) {
  const Material* is = patterned(on, thing);
  if (!is || !on.document.blobs.contains(blob)) return {};
  const std::string pointer = pointer_of(on, thing) + "/material";
  Json material = material_json(on, pointer, *is);
  material.erase("colour");  // the picture's own
  material["texture"] = Json{{"kind", "picture"}, {"picture", blob}};
  return SetEdit{{{pointer, material}}, said("{}: a picture laid on it", name_of(on, thing)), thing};
}

std::optional<SetEdit> film_switched(const OnSet& on, const SetThing& thing) {
  const Light* light = lamp_of(on, thing);
  if (!light) return {};
  const std::string pointer = pointer_of(on, thing) + "/film";
  if (light->film) return SetEdit{{{pointer, std::nullopt}}, said("Polarising film off {}", light->name), thing};
  return SetEdit{{{pointer, Json{{"angle_deg", 0}}}}, said("Polarising film on {}", light->name), thing};
}

std::optional<SetEdit> gel_curve_put(const OnSet& on, const SetThing& thing, const std::vector<PassedAt>& curve) {
  const Light* light = lamp_of(on, thing);
  if (!light || curve.empty()) return {};
  Json points = Json::array();
  for (const PassedAt& p : curve) points.push_back(Json{{"nm", p.nm}, {"share", p.share}});
  const std::string pointer = pointer_of(on, thing);
  SetEdit edit{{{pointer + "/gel_curve", points}}, said("Gel by its curve on {}", light->name), thing};
  if (value_at(on.document, pointer + "/gel_bands"))
    edit.values.emplace_back(pointer + "/gel_bands", std::nullopt);
  return edit;
}

}  // namespace cinnabar
