// std::visit with one lambda for each alternative.
#pragma once

namespace frelm {

template <class... F> struct Cases : F... { using F::operator()...; };
template <class... F> Cases(F...) -> Cases<F...>;

} // namespace frelm
