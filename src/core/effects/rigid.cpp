#include "cinnabar/effects/rigid.h"

#include <btBulletDynamicsCommon.h>

#include <algorithm>
#include <array>
#include <atomic>
#include <cmath>
#include <list>
#include <mutex>

#include "cinnabar/effects/falls.h"

namespace cinnabar {
namespace {

constexpr double step = 1e-3, longest = 20.0;
constexpr int kept_every = 4;  // steps
// What goes and turns less than this in a tenth of a second lies: a rebound's top is left sooner.
constexpr double still_way = 3e-4, still_turn = 0.03;
constexpr std::size_t still_rows = 25;  // a tenth of a second

btVector3 bt(const Vec3& v) { return {v.x, v.y, v.z}; }
Vec3 vec(const btVector3& v) { return {v.x(), v.y(), v.z()}; }

btTransform placed(const Vec3& place, const Vec3& right, const Vec3& up) {
  const Vec3 x = unit(right), y = unit(up), z = cross(x, y);
  return btTransform(btMatrix3x3(x.x, y.x, z.x, x.y, y.y, z.y, x.z, y.z, z.z), bt(place));
}

/// Corners of a hull drawn in by its margin, toward their middle.
std::unique_ptr<btConvexHullShape> hull_of(const RigidSolid& points, double margin) {
  auto hull = std::make_unique<btConvexHullShape>();
  Vec3 middle;
  for (const Vec3& p : points) middle = middle + p * (1.0 / static_cast<double>(points.size()));
  for (const Vec3& p : points) {
    const Vec3 off = p - middle;
    const auto less = [margin](double c) { return c - std::copysign(std::min(std::abs(c), margin), c); };
    hull->addPoint(bt(middle + Vec3{less(off.x), less(off.y), less(off.z)}), false);
  }
  hull->recalcLocalAabb();
  hull->setMargin(margin);
  return hull;
}

}  // namespace

/// What Bullet owns by pointers, freed in the order that it wants.
struct RigidWorld {
  /// Room for few meetings at once, taken anew where they are more: usual is memory for thousands.
  static btDefaultCollisionConstructionInfo small() {
    btDefaultCollisionConstructionInfo info;
    info.m_defaultMaxPersistentManifoldPoolSize = info.m_defaultMaxCollisionAlgorithmPoolSize = 128;
    return info;
  }
  btDefaultCollisionConfiguration configuration{small()};
  btCollisionDispatcher dispatcher{&configuration};
  btDbvtBroadphase broadphase;
  btSequentialImpulseConstraintSolver solver;
  btDiscreteDynamicsWorld world{&dispatcher, &broadphase, &solver, &configuration};
  std::list<std::unique_ptr<btCollisionShape>> shapes;
  std::vector<std::unique_ptr<btRigidBody>> bodies;

  RigidWorld() {
    world.setGravity({0, -standard_gravity, 0});
    world.getSolverInfo().m_numIterations = 50;
    // Else rebounds are of any height.
    world.getSolverInfo().m_splitImpulsePenetrationThreshold = 0;
  }
  RigidWorld(const RigidWorld&) = delete;
  RigidWorld& operator=(const RigidWorld&) = delete;
  ~RigidWorld() {
    for (const auto& body : bodies) world.removeRigidBody(body.get());
  }
  btRigidBody& add(std::unique_ptr<btCollisionShape> shape, double mass, const btTransform& at, double restitution,
                   double friction) {
    btVector3 inertia(0, 0, 0);
    if (mass > 0) shape->calculateLocalInertia(mass, inertia);
    btRigidBody::btRigidBodyConstructionInfo info(mass, nullptr, shape.get(), inertia);
    info.m_startWorldTransform = at;
    info.m_restitution = restitution, info.m_friction = friction;
    info.m_linearDamping = info.m_angularDamping = 0;
    bodies.push_back(std::make_unique<btRigidBody>(info));
    btRigidBody& body = *bodies.back();
    body.setContactProcessingThreshold(0);
    body.setActivationState(DISABLE_DEACTIVATION);
    shapes.push_back(std::move(shape));
    world.addRigidBody(&body);
    return body;
  }
};

/// A world and how far it has come; all under its lock until it has ended, after which nothing changes any more.
struct RigidRun::Running {
  struct Kept {
    std::array<float, 3> place;
    std::array<float, 4> turn;  ///< quaternion
  };
  std::mutex mutex;
  std::atomic<bool> ended = false;
  std::unique_ptr<RigidWorld> all = std::make_unique<RigidWorld>();  ///< none once it has ended
  std::vector<btRigidBody*> bodies;
  std::size_t pieces = 0;
  std::vector<double> terminal_speeds;
  std::vector<Kept> kept;  ///< all pieces of a moment together
  int steps = 0;

  explicit Running(const RigidScene& scene);
  void keep();
  void go();
  /// As far as a moment, or to the end.
  void go_to(double t) {
    while (all && steps * step <= t + step * kept_every) go();
  }
  [[nodiscard]] bool lie() const;
};

RigidRun::Running::Running(const RigidScene& scene) {
  const btTransform at_origin = btTransform::getIdentity();
  btTransform floor = at_origin;
  const Vec3 middle = scene.pieces.empty() ? Vec3{} : scene.pieces.front().place;
  floor.setOrigin({middle.x, scene.ground - 5.0, middle.z});
  all->add(std::make_unique<btBoxShape>(btVector3(100, 5, 100)), 0, floor, 1.0, 1.0);
  for (const RigidSolid& solid : scene.solids)
    if (solid.size() > 3) all->add(hull_of(solid, 5e-4), 0, at_origin, 1.0, 1.0);
  for (const RigidPiece& piece : scene.pieces) {
    std::unique_ptr<btCollisionShape> shape;
    double volume = 0.0;
    if (piece.hull.size() > 3) {
      shape = hull_of(piece.hull, std::min(1e-3, 0.1 * std::min({piece.half.x, piece.half.y, piece.half.z})));
      volume = pi / 6.0 * 8.0 * piece.half.x * piece.half.y * piece.half.z;
    } else if (piece.ball) {
      shape = std::make_unique<btSphereShape>(piece.half.x);
      volume = 4.0 / 3.0 * pi * piece.half.x * piece.half.x * piece.half.x;
    } else {
      auto box = std::make_unique<btBoxShape>(bt(piece.half));
      box->setMargin(std::min(1e-3, 0.3 * std::min({piece.half.x, piece.half.y, piece.half.z})));
      shape = std::move(box);
      volume = 8.0 * piece.half.x * piece.half.y * piece.half.z;
    }
    btRigidBody& body = all->add(std::move(shape), 1000.0 * volume, placed(piece.place, piece.right, piece.up),
                                 piece.restitution, piece.friction);
    body.setLinearVelocity(bt(piece.velocity));
    body.setAngularVelocity(bt(piece.spin));
    bodies.push_back(&body);
    terminal_speeds.push_back(piece.terminal_speed);
  }
  pieces = bodies.size();
  keep();
}

void RigidRun::Running::keep() {
  for (const btRigidBody* body : bodies) {
    const btTransform& t = body->getWorldTransform();
    const btQuaternion q = t.getRotation();
    const Vec3 p = vec(t.getOrigin());
    kept.push_back({{static_cast<float>(p.x), static_cast<float>(p.y), static_cast<float>(p.z)},
                    {static_cast<float>(q.x()), static_cast<float>(q.y()), static_cast<float>(q.z()),
                     static_cast<float>(q.w())}});
  }
}

void RigidRun::Running::go() {
  for (std::size_t i = 0; i < bodies.size(); ++i) {
    const double vt = terminal_speeds[i];
    const btVector3& v = bodies[i]->getLinearVelocity();
    if (vt > 0.0)  // m g (v / vt)2 against its way
      bodies[i]->applyCentralForce(v * (-v.length() / (vt * vt) * standard_gravity / bodies[i]->getInvMass()));
  }
  all->world.stepSimulation(step, 0, step);
  ++steps;
  if (steps % kept_every == 0) keep();
  if (lie() || steps * step >= longest) {
    bodies.clear(), all.reset();
    ended.store(true, std::memory_order_release);
  }
}

/// Whether nothing moved from the tenth of a second before the last moment kept to that one.
bool RigidRun::Running::lie() const {
  const std::size_t n = bodies.size();
  if (steps % kept_every != 0 || kept.size() < (still_rows + 1) * n) return n == 0;
  const Kept *now = &kept[kept.size() - n], *before = now - still_rows * n;
  for (std::size_t i = 0; i < n; ++i) {
    double way = 0.0, turn = 0.0;
    for (std::size_t c = 0; c < 3; ++c)
      way += std::pow(static_cast<double>(now[i].place[c]) - static_cast<double>(before[i].place[c]), 2);
    for (std::size_t c = 0; c < 4; ++c)
      turn += static_cast<double>(now[i].turn[c]) * static_cast<double>(before[i].turn[c]);
    if (way > still_way * still_way || std::abs(turn) < std::cos(0.5 * still_turn)) return false;
  }
  return true;
}

RigidRun::RigidRun(const RigidScene& scene) : running_(std::make_unique<Running>(scene)) {}
RigidRun::~RigidRun() = default;

std::size_t RigidRun::bytes() const {
  const std::lock_guard lock(running_->mutex);
  return running_->kept.capacity() * sizeof(Running::Kept);
}

std::vector<RigidPose> RigidRun::at(double t) const {
  const double row = std::clamp(t / (step * kept_every), 0.0, longest / step), s = row - std::floor(row);
  const auto mix = [s](float x, float y) { return static_cast<double>(x) * (1 - s) + static_cast<double>(y) * s; };
  // Who draws must not wait for a worker that holds the lock and is not given a core.
  std::unique_lock lock(running_->mutex, std::defer_lock);
  if (!running_->ended.load(std::memory_order_acquire)) {
    lock.lock();
    running_->go_to(t);
  }
  const std::size_t n = running_->pieces, last = running_->kept.size() / std::max<std::size_t>(1, n) - 1,
                    i = std::min(static_cast<std::size_t>(row), last), next = std::min(i + 1, last);
  std::vector<RigidPose> poses;
  for (std::size_t k = 0; k < n; ++k) {
    const Running::Kept &a = running_->kept[i * n + k], &b = running_->kept[next * n + k];
    const btQuaternion from(a.turn[0], a.turn[1], a.turn[2], a.turn[3]),
        to(b.turn[0], b.turn[1], b.turn[2], b.turn[3]);
    const btMatrix3x3 turn(from.slerp(to, s).normalized());
    poses.push_back({{mix(a.place[0], b.place[0]), mix(a.place[1], b.place[1]), mix(a.place[2], b.place[2])},
                     vec(turn.getColumn(0)),
                     vec(turn.getColumn(1))});
  }
  return poses;
}

std::shared_ptr<const RigidRun> rigid_run(const RigidScene& scene) {
  struct Known {
    RigidScene scene;
    std::shared_ptr<const RigidRun> run;
  };
  static std::mutex mutex;
  static std::list<Known> known;  // the latest first
  constexpr std::size_t most = 8, most_bytes = 32U << 20U;
  {
    const std::lock_guard lock(mutex);
    for (auto one = known.begin(); one != known.end(); ++one)
      if (one->scene == scene) {
        known.splice(known.begin(), known, one);
        return known.front().run;
      }
  }
  auto run = std::make_shared<const RigidRun>(scene);  // two at once do it twice, and alike
  const std::lock_guard lock(mutex);
  known.push_front({scene, run});
  std::size_t bytes = 0, kept = 0;
  for (auto one = known.begin(); one != known.end();) {
    bytes += one->run->bytes();
    one = ++kept > 1 && (kept > most || bytes > most_bytes) ? known.erase(one) : std::next(one);
  }
  return run;
}

}  // namespace cinnabar
