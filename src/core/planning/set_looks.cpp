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

/// Of surfaces, backdrops and bodies.
const std::vector<Sheet>& made_ofs() {
  static const std::vector<Sheet> all{
      {"white", said("white paint"), R"({"kind": "matte", "colour": [0.8, 0.8, 0.8]})"},
      {"grey", said("grey paint"), R"({"kind": "matte", "colour": [0.3, 0.3, 0.3]})"},
      {"black", said("black cloth"), R"({"kind": "cloth", "colour": [0.02, 0.02, 0.02]})"},
      {"paper", said("white paper"), R"({"kind": "paper", "colour": [0.85, 0.85, 0.85]})"},
      {"wood", said("wood"), R"({"kind": "satin", "colour": [0.45, 0.29, 0.16], "roughness": 0.5,
        "texture": {"kind": "wood"}})"},
      {"marble", said("marble"),
       R"({"kind": "gloss", "colour": [0.75, 0.74, 0.72], "texture": {"kind": "marble"}})"},
      {"stone", said("stone"), R"({"kind": "matte", "colour": [0.4, 0.39, 0.37], "texture": {"kind": "stone"}})"},
      {"linen", said("linen"), R"({"kind": "cloth", "colour": [0.6, 0.57, 0.5], "sheen": 0.1,
        "texture": {"kind": "weave"}})"},
      {"glass", said("glass"), R"({"kind": "glass", "ior": 1.52})"},
      {"acrylic", said("black acrylic"), R"({"kind": "gloss", "colour": [0.02, 0.02, 0.02], "ior": 1.49})"},
      {"pale-acrylic", said("white acrylic"), R"({"kind": "gloss", "colour": [0.8, 0.8, 0.8], "ior": 1.49})"},
      {"steel", said("brushed steel"), R"({"kind": "metal", "colour": [0.6, 0.58, 0.55], "roughness": 0.35,
        "brushing": 0.6})"}};
  return all;
}

std::vector<SheetKind> offered(const std::vector<Sheet>& rows) {
  std::vector<SheetKind> list;
  for (const Sheet& row : rows) list.push_back({row.id, row.name});
  return list;
}
Json material_in(const std::vector<Sheet>& rows, const std::string& id) {
  for (const Sheet& row : rows)
    if (row.id == id) return Json::parse(row.material);
  return Json::parse(rows.front().material);
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

/// What a thing of the set is made of; nothing of lights, products and the room.
const Material* material_of(const OnSet& on, const SetThing& thing) {
  const Setup* setup = on.setup();
  if (!setup) return nullptr;
  switch (thing.kind) {
    case Kind::surface:
      return setup->surface ? &setup->surface->material : nullptr;
    case Kind::backdrop:
      return setup->backdrop.kind != BackdropKind::none ? &setup->backdrop.material : nullptr;
    case Kind::card:
      return thing.index < setup->cards.size() ? &setup->cards[thing.index].material : nullptr;
    case Kind::body:
      return thing.index < setup->gear.size() ? &setup->gear[thing.index].material : nullptr;
    default:
      return nullptr;
  }
}

/// The same of what can have a pattern: nothing clear, nothing round.
const Material* patterned(const OnSet& on, const SetThing& thing) {
  const Material* material = material_of(on, thing);
  const bool round = thing.kind == Kind::body && material && on.setup()->gear[thing.index].form != GearForm::box;
  return material && !material->is_clear() && !round ? material : nullptr;
}

/// The thing's material as the document has it, or as it is taken to be.
Json own_material(const OnSet& on, const std::string& pointer, const Material& is) {
  const auto own = value_at(on.document, pointer);
  return own && own->is_object() ? *own : material_json(is);
}

}  // namespace

const Light* lamp_of(const OnSet& on, const SetThing& thing) {
  const Setup* setup = on.setup();
  return thing.kind == Kind::light && setup && thing.index < setup->lights.size() &&
                 !setup->lights[thing.index].window
             ? &setup->lights[thing.index]
             : nullptr;
}

std::vector<SheetKind> sheet_kinds() { return offered(sheets()); }
Json sheet_material(const std::string& kind) { return material_in(sheets(), kind); }
Json ready_material(const std::string& id) { return material_in(made_ofs(), id); }

std::vector<SheetKind> materials_for(const SetThing& thing) {
  if (thing.kind == Kind::card) return sheet_kinds();
  std::vector<SheetKind> list = offered(made_ofs());
  if (thing.kind == Kind::backdrop) std::erase_if(list, [](const SheetKind& one) { return one.id == "glass"; });
  return list;
}

std::optional<SetEdit> made_of(const OnSet& on, const SetThing& thing, const std::string& id) {
  const auto all = materials_for(thing);
  const auto known = std::find_if(all.begin(), all.end(), [&](const SheetKind& one) { return one.id == id; });
  if (!material_of(on, thing) || known == all.end()) return {};
  const std::string pointer = pointer_of(on, thing) + "/material";
  const Json material = thing.kind == Kind::card ? sheet_material(id) : ready_material(id);
  if (value_at(on.document, pointer) == material) return {};
  return SetEdit{{{pointer, material}}, said("{} of {}", name_of(on, thing), known->name), thing};
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
    Json material = own_material(on, pointer, *is);
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
  Json material = own_material(on, pointer, *is);
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
