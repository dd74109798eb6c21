#include "cinnabar/render/geometry.h"

#include <embree3/rtcore.h>

#include <algorithm>
#include <vector>

namespace cinnabar {

struct Geometry::Scene {
  RTCDevice device;
  RTCScene scene;
  std::vector<char> flat;  // per mesh: a plane that stands still, so that its one normal is every triangle's
};

namespace {

/// One device for the process: Embree's devices are expensive and safe to share.
RTCDevice shared_device() {
  static const struct Holder {
    RTCDevice device = rtcNewDevice("threads=0");
    ~Holder() { rtcReleaseDevice(device); }
  } holder;
  return holder.device;
}

RTCRay embree_ray(const Ray& r) {
  RTCRay out;
  out.org_x = r.origin.x, out.org_y = r.origin.y, out.org_z = r.origin.z;
  out.dir_x = r.direction.x, out.dir_y = r.direction.y, out.dir_z = r.direction.z;
  out.tnear = r.near, out.tfar = r.far, out.time = r.time;
  out.mask = 0xFFFFFFFFU, out.id = 0, out.flags = 0;
  return out;
}

}  // namespace

bool is_plane(const Mesh& mesh) {
  if (mesh.positions.size() != 1 || mesh.positions[0].empty()) return false;
  const Vec3f n = unit(mesh.normals[0]), first = mesh.positions[0][0];
  return std::all_of(mesh.normals.begin(), mesh.normals.end(),
                     [&](const Vec3f& m) { return m == mesh.normals[0]; }) &&
         std::all_of(mesh.positions[0].begin(), mesh.positions[0].end(),
                     [&](const Vec3f& p) { return std::abs(dot(n, p - first)) < 1e-5f; });
}

Geometry::Geometry(const StagedWorld& world) : world_(world), scene_(std::make_unique<Scene>()) {
  scene_->device = shared_device();
  scene_->scene = rtcNewScene(scene_->device);
  for (const Mesh& mesh : world.meshes) {
    const auto steps = static_cast<unsigned>(mesh.positions.size());
    RTCGeometry geometry = rtcNewGeometry(scene_->device, RTC_GEOMETRY_TYPE_TRIANGLE);
    rtcSetGeometryTimeStepCount(geometry, steps);
    for (unsigned step = 0; step < steps; ++step) {
      const auto& p = mesh.positions[step];
      auto* to = static_cast<float*>(rtcSetNewGeometryBuffer(geometry, RTC_BUFFER_TYPE_VERTEX, step,
                                                             RTC_FORMAT_FLOAT3, sizeof(Vec3f), p.size()));
      std::copy_n(reinterpret_cast<const float*>(p.data()), p.size() * 3, to);
    }
    auto* indices =
        static_cast<std::uint32_t*>(rtcSetNewGeometryBuffer(geometry, RTC_BUFFER_TYPE_INDEX, 0, RTC_FORMAT_UINT3,
                                                            3 * sizeof(std::uint32_t), mesh.triangles.size() / 3));
    std::copy(mesh.triangles.begin(), mesh.triangles.end(), indices);
    scene_->flat.push_back(is_plane(mesh));
    rtcCommitGeometry(geometry);
    rtcAttachGeometry(scene_->scene, geometry);
    rtcReleaseGeometry(geometry);
  }
  rtcCommitScene(scene_->scene);
}

Geometry::~Geometry() { rtcReleaseScene(scene_->scene); }

Hit Geometry::meet(const Ray& ray) const {
  RTCIntersectContext context;
  rtcInitIntersectContext(&context);
  RTCRayHit query;
  query.ray = embree_ray(ray);
  query.hit.geomID = RTC_INVALID_GEOMETRY_ID;
  rtcIntersect1(scene_->scene, &context, &query);
  Hit hit;
  if (query.hit.geomID == RTC_INVALID_GEOMETRY_ID) return hit;
  const Mesh& mesh = world_.meshes[query.hit.geomID];
  const std::uint32_t* i = &mesh.triangles[3 * static_cast<std::size_t>(query.hit.primID)];
  const float v = query.hit.u, w = query.hit.v, u = 1.0f - v - w;
  hit.mesh = &mesh;
  hit.distance = query.ray.tfar;
  hit.place = ray.origin + ray.direction * hit.distance;
  const Vec3f& first = mesh.normals[i[0]];
  if (scene_->flat[query.hit.geomID]) {
    hit.normal = hit.geometric = first;
  } else {
    hit.normal = unit(first * u + mesh.normals[i[1]] * v + mesh.normals[i[2]] * w);
    hit.geometric = unit(Vec3f{query.hit.Ng_x, query.hit.Ng_y, query.hit.Ng_z});
    if (dot(hit.normal, hit.geometric) < 0.0f) hit.geometric = -hit.geometric;
  }
  if (!mesh.own.empty()) hit.own = mesh.own[i[0]] * u + mesh.own[i[1]] * v + mesh.own[i[2]] * w;
  if (mesh.picture || mesh.stamp) {
    hit.u = mesh.uvs[i[0]].first * u + mesh.uvs[i[1]].first * v + mesh.uvs[i[2]].first * w;
    hit.v = mesh.uvs[i[0]].second * u + mesh.uvs[i[1]].second * v + mesh.uvs[i[2]].second * w;
  }
  return hit;
}

bool Geometry::blocked(const Ray& ray) const {
  RTCIntersectContext context;
  rtcInitIntersectContext(&context);
  RTCRay query = embree_ray(ray);
  rtcOccluded1(scene_->scene, &context, &query);
  return query.tfar < 0.0f;
}

bool Geometry::raw(const RayRecord& record) const {
  if (record.shadow) return blocked(record.ray);
  RTCIntersectContext context;
  rtcInitIntersectContext(&context);
  RTCRayHit query;
  query.ray = embree_ray(record.ray);
  query.hit.geomID = RTC_INVALID_GEOMETRY_ID;
  rtcIntersect1(scene_->scene, &context, &query);
  return query.hit.geomID != RTC_INVALID_GEOMETRY_ID;
}

}  // namespace cinnabar
