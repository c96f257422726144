// A list whose entries are shared by its copies until one of them is changed: undo steps of a large project hold only
// what each of them changed.
#pragma once

#include <algorithm>
#include <atomic>
#include <cstddef>
#include <initializer_list>
#include <iterator>
#include <memory>
#include <stdexcept>
#include <vector>

namespace fulmox {

/// Like a std::vector of values. Whatever gives a reference that can be written makes the entry this list's own first.
template <class T> class SharedList {
    template <class List, class Value> class Step {
      public:
        using iterator_category = std::random_access_iterator_tag;
        using value_type = T;
        using difference_type = std::ptrdiff_t;
        using pointer = Value*;
        using reference = Value&;

        Step() = default;
        Step(List* list, std::size_t at) : list_(list), at_(at) {}
        reference operator*() const { return (*list_)[at_]; }
        pointer operator->() const { return &(*list_)[at_]; }
        reference operator[](difference_type n) const { return *(*this + n); }
        Step& operator+=(difference_type n) {
            at_ = static_cast<std::size_t>(static_cast<difference_type>(at_) + n);
            return *this;
        }
        Step& operator-=(difference_type n) { return *this += -n; }
        Step& operator++() { return *this += 1; }
        Step& operator--() { return *this += -1; }
        Step operator++(int) {
            const Step before = *this;
            ++*this;
            return before;
        }
        Step operator--(int) {
            const Step before = *this;
            --*this;
            return before;
        }
        friend Step operator+(Step a, difference_type n) { return a += n; }
        friend Step operator+(difference_type n, Step a) { return a += n; }
        friend Step operator-(Step a, difference_type n) { return a -= n; }
        friend difference_type operator-(const Step& a, const Step& b) {
            return static_cast<difference_type>(a.at_) - static_cast<difference_type>(b.at_);
        }
        bool operator==(const Step& o) const { return at_ == o.at_; }
        auto operator<=>(const Step& o) const { return at_ <=> o.at_; }
        std::size_t at() const { return at_; }

      private:
        List* list_ = nullptr;
        std::size_t at_ = 0;
    };

  public:
    using value_type = T;
    using iterator = Step<SharedList, T>;
    using const_iterator = Step<const SharedList, const T>;

    SharedList() = default;
    SharedList(std::initializer_list<T> values) {
        for (const T& v : values) push_back(v);
    }

    std::size_t size() const { return entries_.size(); }
    bool empty() const { return entries_.empty(); }
    void reserve(std::size_t n) { entries_.reserve(n); }
    void clear() { entries_.clear(); }

    const T& operator[](std::size_t i) const { return *entries_[i]; }
    T& operator[](std::size_t i) { return own(i); }
    const T& at(std::size_t i) const { return *entries_.at(i); }
    T& at(std::size_t i) {
        if (i >= size()) throw std::out_of_range("SharedList");
        return own(i);
    }
    const T& front() const { return *entries_.front(); }
    T& front() { return own(0); }
    const T& back() const { return *entries_.back(); }
    T& back() { return own(size() - 1); }

    const_iterator begin() const { return {this, 0}; }
    const_iterator end() const { return {this, size()}; }
    iterator begin() { return {this, 0}; }
    iterator end() { return {this, size()}; }

    void push_back(T value) { entries_.push_back(std::make_shared<T>(std::move(value))); }
    T& emplace_back() { return *entries_.emplace_back(std::make_shared<T>()); }
    iterator insert(const iterator& before, T value) {
        entries_.insert(
            entries_.begin() + static_cast<std::ptrdiff_t>(before.at()), std::make_shared<T>(std::move(value)));
        return before;
    }
    iterator erase(const iterator& at) {
        entries_.erase(entries_.begin() + static_cast<std::ptrdiff_t>(at.at()));
        return at;
    }
    /// New entries are shared copies of the value.
    void resize(std::size_t n, const T& value = T{}) {
        std::shared_ptr<T> more;
        if (n > size()) more = std::make_shared<T>(value); // before anything moves: it may be an entry of ours
        entries_.resize(n, more);
    }

    /// Entries that are shared are equal without being looked at.
    bool operator==(const SharedList& o) const {
        return std::equal(entries_.begin(), entries_.end(), o.entries_.begin(), o.entries_.end(),
            [](const auto& a, const auto& b) { return a == b || *a == *b; });
    }

  private:
    std::vector<std::shared_ptr<T>> entries_;

    T& own(std::size_t i) {
        std::shared_ptr<T>& entry = entries_[i];
        if (entry.use_count() > 1)
            entry = std::make_shared<T>(*entry);
        else // whoever shared it on another thread has done with reading it
            std::atomic_thread_fence(std::memory_order_acquire);
        return *entry;
    }
};

} // namespace fulmox
