#include "cinnabar/desktop/begin/draft_maker.h"

#include <QPointer>

#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/desktop/workers/later.h"
#include "cinnabar/desktop/workers/picture_maker.h"
#include "cinnabar/scene/mesh_file.h"

namespace cinnabar {
namespace {
constexpr int picture_width = 152;

/// What stands in the hand, with the mesh's product where there is one.
Expected<SpotInHand> with_mesh_in_hand(SpotInHand hand, const QString& mesh) {
  if (mesh.isEmpty()) return hand;
  const auto file = read_mesh_file(mesh.toStdString());
  if (!file) return tl::unexpected(file.error());
  MeshChoice choice;
  choice.metres_per_unit = file->in_metres ? 1.0 : 0.001;
  choice.z_up = file->z_up;
  choice.height = hand.height;
  choice.scaled_to_height = hand.height.has_value();
  const auto with = with_mesh_product(empty_document("mesh"), *file, choice, file->name);
  if (!with) return tl::unexpected(with.error());
  hand.product = *with->list("products").front();
  hand.blobs = with->blobs;
  return hand;
}

/// The spot without shots.
Expected<Document> begun_spot(const SpotInHand& in_hand, const QString& mesh) {
  const auto hand = with_mesh_in_hand(in_hand, mesh);
  return hand ? spot_in_hand(*hand) : tl::unexpected(hand.error());
}

}  // namespace

template <class F>
void DraftMaker::tell(int ticket, F then) {
  const QPointer<DraftMaker> self(this);
  later(self, [self, ticket, then = std::move(then)] {
    if (self->ticket_ == ticket) then(self.data());
  });
}

void DraftMaker::ask(const SpotInHand& in_hand, const QString& mesh, unsigned seed) {
  worker_.ask([this, in_hand, mesh, seed, ticket = ++ticket_](const std::atomic<bool>& cancelled) {
    const auto fail_with = [&](const Error& error) {
      if (cancelled) return;
      tell(ticket, [why = q(error.text())](DraftMaker* self) { emit self->failed(why); });
    };
    const auto begun = begun_spot(in_hand, mesh);
    if (!begun) return fail_with(begun.error());
    // Something to look at while the set-up is being found: the first set-up and the first move that suit.
    if (const auto sketch = first_sketch(forecaster_, *begun, seed, &cancelled)) {
      ProjectReader reader;
      const Project project = reader.read(sketch->document);
      const QImage picture = thumbnail(project, *project.shots.front(), picture_width, cancelled);
      if (cancelled) return;
      tell(ticket, [picture](DraftMaker* self) { emit self->pictured({}, picture); });
    }
    std::optional<JsonPtr> shown;
    const auto draft = drafted(
        forecaster_, *begun,
        {.seed = seed,
         .progress =
             [&](const Draft& so_far, std::size_t planned) {
               tell(ticket, [now = std::make_shared<const Draft>(so_far), planned](DraftMaker* self) {
                 emit self->grown(now, planned);
               });
               if (so_far.shots.empty()) return;
               ProjectReader reader;
               const Project project = reader.read(so_far.document);
               const auto& setups = so_far.document.list("setups");
               const bool anew = shown && setups.front() != *shown;  // levelled at the end: all look different
               shown = setups.front();
               for (std::size_t i = anew ? 0 : project.shots.size() - 1; i < project.shots.size(); ++i) {
                 const QImage picture = thumbnail(project, *project.shots[i], picture_width, cancelled);
                 tell(ticket, [picture, id = q(project.shots[i]->id)](DraftMaker* self) {
                   emit self->pictured(id, picture);
                 });
               }
             }},
        &cancelled);
    if (cancelled) return;
    if (!draft) return fail_with(draft.error());
    tell(ticket, [](DraftMaker* self) { emit self->done(); });
  });
}

void DraftMaker::askBegun(const SpotInHand& in_hand, const QString& mesh) {
  worker_.ask([this, in_hand, mesh, ticket = ++ticket_](const std::atomic<bool>& cancelled) {
    const auto made = std::make_shared<const Expected<Document>>(begun_spot(in_hand, mesh));
    if (cancelled) return;
    tell(ticket, [made](DraftMaker* self) {
      if (*made)
        emit self->begun(std::make_shared<const Document>(**made));
      else
        emit self->failed(q(made->error().text()));
    });
  });
}

void DraftMaker::askAnother(const Draft& draft, std::size_t shot, const std::set<std::string>& refused,
                            unsigned seed) {
  worker_.ask([this, draft, shot, refused, seed, ticket = ++ticket_](const std::atomic<bool>& cancelled) {
    const auto other = with_another(forecaster_, draft, shot, refused, seed, &cancelled);
    if (cancelled) return;
    if (!other) {
      tell(ticket, [why = q(other.error().text())](DraftMaker* self) { emit self->failed(why); });
      return;
    }
    ProjectReader reader;
    const Project project = reader.read(other->document);
    const Shot& made = *project.shots[shot];
    tell(ticket, [now = std::make_shared<const Draft>(*other)](DraftMaker* self) {
      emit self->grown(now, now->shots.size());
    });
    const QImage picture = thumbnail(project, made, picture_width, cancelled);
    if (cancelled) return;
    tell(ticket, [picture, id = q(made.id)](DraftMaker* self) {
      emit self->pictured(id, picture);
      emit self->done();
    });
  });
}

}  // namespace cinnabar
