#include "cinnabar/formats/shots_batch.h"

#include "cinnabar/project/making/new_shot.h"

namespace cinnabar {

ShotsBatch::ShotsBatch(const Document& document) : before_(document), next_(document) {
  const auto& list = shots();
  for (std::size_t i = 0; i < list.size(); ++i) places_.try_emplace(list[i]->at("id").get<std::string>(), i);
}

std::optional<std::size_t> ShotsBatch::place_of(const std::string& id) const {
  const auto found = places_.find(id);
  return found == places_.end() ? std::nullopt : std::optional(found->second);
}

Json ShotsBatch::made(const Json* like, const std::string& name) {
  if (!like) check_.reset();  // a first shot brings things of its own
  Json shot = like ? *like : new_shot(next_, nullptr, name);
  do shot["id"] = "s" + std::to_string(++last_fresh_);
  while (places_.contains(shot["id"].get_ref<const std::string&>()));
  shot["name"] = name;
  return shot;
}

std::optional<DocumentFault> ShotsBatch::put(Json shot) {
  const std::string id = shot.at("id");
  const auto known = place_of(id);
  const std::size_t place = known.value_or(shots().size());
  if (!check_) check_.emplace(next_);
  const auto faults = check_->faults("shots", shot, "/shots/" + std::to_string(place));
  if (!faults.empty()) return faults.front();
  auto& list = next_.lists["shots"];
  auto value = std::make_shared<const Json>(std::move(shot));
  if (known) {
    list[place] = std::move(value);
    ++changed;
  } else {
    list.push_back(std::move(value));
    places_[id] = place;
    ++added;
  }
  return std::nullopt;
}

Project project_without_log(const Document& document) {
  Document shots{document.singles, {}, {}};
  for (const auto& [key, list] : document.lists)
    if (key != "takes") shots.lists.emplace(key, list);
  return ProjectReader().read(shots);
}

}  // namespace cinnabar
