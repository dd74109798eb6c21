#include "cinnabar/project/making/new_shot.h"

#include <algorithm>
#include <unordered_set>

namespace cinnabar {
namespace {

void add(Document& document, const char* list, Json entity) {
  document.lists[list].push_back(std::make_shared<const Json>(std::move(entity)));
}

const char* plain_product = R"({"id": "box1", "name": "Product", "mass": 0.3, "parts": [{"id": "body",
  "profile": [[0,0],[0.035,0],[0.035,0.1],[0,0.1]], "material": {"kind": "matte", "colour": [0.5,0.5,0.5]}}]})";
const char* plain_setup = R"({"id": "A", "name": "First set-up",
  "surface": {"width": 1.2, "depth": 0.8, "material": {"kind": "matte", "colour": [0.3,0.3,0.3]}},
  "backdrop": {"kind": "sweep", "distance": 1.2, "width": 2.0, "height": 1.6, "low": 0, "radius": 0.3,
               "material": {"kind": "matte", "colour": [0.4,0.4,0.4]}},
  "lights": [{"id": "key", "name": "Key", "place": [0.6,0.6,0.5], "aim": [0,0.05,0], "shape": "rectangle", "width": 0.5,
              "height": 0.7, "lumens": 4000, "kelvin": 5600}], "cards": []})";
const char* plain_shot = R"({"size": "close", "screen_time": 3.0, "products": [],
  "camera": {"focal": 0.05, "place": [0,0.12,0.75], "aim": [0,0.05,0], "focus": 0.72, "f_number": 5.6,
             "shutter_time": 0.0208333333, "iso": 400, "balance_k": 5600}})";

}  // namespace

namespace {
std::string fresh_id(const std::unordered_set<std::string_view>& taken, const std::string& stem) {
  for (int k = 1;; ++k)
    if (std::string id = stem + std::to_string(k); !taken.contains(id)) return id;
}
}  // namespace

std::string fresh_id(const Document& document, const std::string& list, const std::string& stem) {
  std::unordered_set<std::string_view> taken;
  for (const JsonPtr& item : document.list(list)) taken.insert(item->at("id").get_ref<const std::string&>());
  return fresh_id(taken, stem);
}
std::string fresh_id(const Json& list, const std::string& stem) {
  std::unordered_set<std::string_view> taken;
  for (const Json& item : list) taken.insert(item.at("id").get_ref<const std::string&>());
  return fresh_id(taken, stem);
}

std::string id_beside(const Json& list, const std::string& stem) {
  const bool taken =
      std::any_of(list.begin(), list.end(), [&](const Json& item) { return item.value("id", "") == stem; });
  if (!taken) return stem;
  for (int n = 2;; ++n) {
    const std::string id = stem + "-" + std::to_string(n);
    if (std::none_of(list.begin(), list.end(), [&](const Json& item) { return item.value("id", "") == id; }))
      return id;
  }
}

Json new_shot(Document& document, const Json* like, const std::string& name) {
  Json shot;
  if (like) {
    shot = *like;
  } else {
    if (document.list("products").empty()) add(document, "products", Json::parse(plain_product));
    if (document.list("setups").empty()) add(document, "setups", Json::parse(plain_setup));
    shot = Json::parse(plain_shot);
    shot["setup"] = document.lists["setups"].front()->at("id");
    shot["products"].push_back(
        {{"product", document.lists["products"].front()->at("id")}, {"place", {0, 0, 0}}, {"turn_deg", 0}});
  }
  shot["id"] = fresh_id(document, "shots", "s");
  shot["name"] = name;
  return shot;
}

void insert_shot(Document& document, Json shot, std::size_t place) {
  auto& shots = document.lists["shots"];
  shots.insert(shots.begin() + static_cast<std::ptrdiff_t>(std::min(place, shots.size())),
               std::make_shared<const Json>(std::move(shot)));
}

}  // namespace cinnabar
