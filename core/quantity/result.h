// A value or an error; errors are values with an address, never exceptions across rooms.
#pragma once

#include <optional>
#include <string>
#include <utility>
#include <variant>

namespace fulmox {

template <class T, class E = std::string> class Result {
  public:
    Result(T value) : state_(std::in_place_index<0>, std::move(value)) {}
    static Result failure(E error) { return Result(std::in_place_index<1>, std::move(error)); }

    explicit operator bool() const { return state_.index() == 0; }
    const T& operator*() const { return std::get<0>(state_); }
    T& operator*() { return std::get<0>(state_); }
    const T* operator->() const { return &std::get<0>(state_); }
    T* operator->() { return &std::get<0>(state_); }
    const E& error() const { return std::get<1>(state_); }

  private:
    template <std::size_t I, class U> Result(std::in_place_index_t<I> tag, U&& v) : state_(tag, std::forward<U>(v)) {}
    std::variant<T, E> state_;
};

} // namespace fulmox
