// The test framework, of either generation: releases of Debian differ in what they have.
#pragma once

#if __has_include(<catch2/catch_all.hpp>)
#include <catch2/catch_all.hpp>

using Catch::Approx;

namespace Catch {
using TestEventListenerBase = EventListenerBase;
namespace Matchers {
inline StringContainsMatcher Contains(const char* part) { return ContainsSubstring(part); }
inline StringContainsMatcher Contains(const std::string& part) { return ContainsSubstring(part); }
} // namespace Matchers
} // namespace Catch
#else
#include <catch2/catch.hpp>
#endif
