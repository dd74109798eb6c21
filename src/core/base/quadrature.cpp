#include "cinnabar/base/quadrature.h"

#include <boost/math/quadrature/gauss_kronrod.hpp>

namespace cinnabar {

double integral(const std::function<double(double)>& of, double a, double b) {
  return boost::math::quadrature::gauss<double, 30>::integrate(of, a, b);
}

double integral_within(double part, const std::function<double(double)>& of, double a, double b) {
  return boost::math::quadrature::gauss_kronrod<double, 31>::integrate(of, a, b, 10, part);
}

}  // namespace cinnabar
